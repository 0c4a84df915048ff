<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { editLandmark, removeLandmark, turnPicture } from '#core/edits/marks/landmarks'
import type { LandmarkPatch } from '#core/edits/marks/landmarks'
import { boundsOf } from '#core/journey/bounds'
import type { Landmark } from '#core/journey/schema'
import { landmarkSchema } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import SpanFields from '~/components/fields/SpanFields.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { useOwnPicture } from '~/stores/own-picture'
import LabelFields from './LabelFields.vue'
import ValueSection from '../values/ValueSection.vue'
import PinSection from './PinSection.vue'

/** A mark, a name or a picture beside the way. */
const props = defineProps<{ landmark: Landmark }>()
const editor = useEditor()
const own = useOwnPicture()
const { change, done } = useFieldEdits(() => `landmark ${props.landmark.id}`)

const patch = (field: string, values: LandmarkPatch) => change(field, (journey) => editLandmark(journey, props.landmark.id, values))
const POSTURES = [
  { value: 'standing', title: 'Standing' },
  { value: 'lying', title: 'Lying' },
] as const
function setPosture(kind: 'standing' | 'lying') {
  editor.edit((journey) => turnPicture(journey, props.landmark.id, kind))
}
const changePicture = () =>
  own.choose('landmark', (picture, { anchor }) => {
    patch('picture', props.landmark.kind === 'standing' ? { picture, anchor } : { picture })
    done()
  })
</script>

<template>
  <div>
    <v-text-field
      label="Name"
      maxlength="120"
      data-testid="landmark-name"
      :model-value="landmark.name"
      @update:model-value="(name: string) => patch('name', { name })"
      @blur="done"
    />
    <template v-if="landmark.kind === 'mark'">
      <h3>Pin</h3>
      <PinSection :stop="landmark" is-beside />
      <h3>Label</h3>
      <LabelFields :stop="landmark" is-beside />
      <ValueSection :stop="landmark.id" />
    </template>
    <template v-else>
      <ChoiceRow label="On the map" :model-value="landmark.kind" :choices="POSTURES" @change="setPosture" />
      <FieldRow v-slot="{ id }" label="Width">
        <NumberField
          :labelledby="id"
          :model-value="landmark.width"
          v-bind="boundsOf(landmarkSchema, 'width')"
          :step="10"
          :precision="1"
          unit="map px"
          @change="(width) => patch('width', { width })"
          @done="done"
        />
      </FieldRow>
      <NumberSlider
        v-if="landmark.kind === 'lying'"
        label="Turned by"
        :model-value="landmark.rotation"
        v-bind="boundsOf(landmarkSchema, 'rotation')"
        unit="°"
        @change="(rotation) => patch('rotation', { rotation })"
        @done="done"
      />
      <PercentSlider label="Opacity" :model-value="landmark.opacity" @change="(opacity) => patch('opacity', { opacity })" @done="done" />
      <PercentSlider
        v-if="landmark.kind === 'standing'"
        label="Shadow"
        :model-value="landmark.shadow"
        @change="(shadow) => patch('shadow', { shadow })"
        @done="done"
      />
    </template>

    <h3>When it is seen</h3>
    <SpanFields :model-value="landmark.shown" @change="(shown) => patch('shown', { shown })" @done="done" />

    <h3>Place</h3>
    <FieldRow label="Ground" role="group">
      <div class="pair">
        <NumberField
          v-for="axis in ['x', 'y'] as const"
          :key="axis"
          :label="axis"
          :model-value="landmark.at[axis]"
          :precision="1"
          @change="(value) => patch(axis, { at: { ...landmark.at, [axis]: value } })"
          @done="done"
        />
      </div>
    </FieldRow>
    <div class="buttons">
      <v-btn v-if="landmark.kind !== 'mark'" size="small" variant="outlined" @click="changePicture">Another picture …</v-btn>
      <v-btn
        size="small"
        variant="outlined"
        color="error"
        :prepend-icon="mdiDeleteOutline"
        data-testid="remove-landmark"
        @click="editor.edit((j) => removeLandmark(j, landmark.id)) && editor.select({ kind: 'journey' })"
      >
        Delete
      </v-btn>
    </div>
    <p v-if="own.failure && !own.original" class="error" role="alert">{{ own.failure }}</p>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.error {
  color: var(--vermilion);
}
</style>
