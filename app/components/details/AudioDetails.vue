<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { computed } from 'vue'
import type { AudioPatch } from '#core/edits/pace/audio'
import { editAudio, removeAudio } from '#core/edits/pace/audio'
import { boundsOf } from '#core/journey/bounds'
import type { Audio } from '#core/journey/schema'
import { audioSchema } from '#core/journey/schema'
import BeatFields from './BeatFields.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** A piece of music or speech that is heard with the film. */
const props = defineProps<{ piece: Audio }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `sound ${props.piece.id}`)
const patch = (field: string, values: AudioPatch) => change(field, (j) => editAudio(j, props.piece.id, values))

const FIELDS = computed(
  () =>
    [
      { key: 'offset', label: 'Begins at', min: 0, max: 600 },
      { key: 'from', label: 'Cut to start', min: 0, max: props.piece.to - 0.1 },
      { key: 'to', label: 'Cut to end', min: props.piece.from + 0.1, max: props.piece.seconds },
    ] as const,
)
</script>

<template>
  <div>
    <h2>{{ piece.name }}</h2>
    <p class="quiet figures">{{ piece.seconds.toFixed(1) }} s long</p>
    <FieldRow v-for="field in FIELDS" :key="field.key" v-slot="{ id }" :label="field.label">
      <NumberField
        :labelledby="id"
        :model-value="piece[field.key]"
        :min="field.min"
        :max="field.max"
        :step="0.1"
        :precision="2"
        unit="s"
        :data-testid="`audio-${field.key}-field`"
        @change="(value) => patch(field.key, { [field.key]: value })"
        @done="done"
      />
    </FieldRow>
    <NumberSlider
      label="Volume"
      :model-value="piece.gain"
      v-bind="boundsOf(audioSchema, 'gain')"
      :step="0.5"
      :precision="1"
      unit="dB"
      @change="(gain) => patch('gain', { gain })"
      @done="done"
    />
    <NumberSlider
      v-for="fade in ['fadeIn', 'fadeOut'] as const"
      :key="fade"
      :label="fade === 'fadeIn' ? 'Fades in' : 'Fades out'"
      :model-value="piece[fade]"
      v-bind="boundsOf(audioSchema, fade)"
      :step="0.1"
      :precision="1"
      unit="s"
      @change="(value) => patch(fade, { [fade]: value })"
      @done="done"
    />
    <BeatFields :piece="piece" />
    <div class="buttons">
      <v-btn
        size="small"
        variant="outlined"
        :prepend-icon="mdiDeleteOutline"
        @click="editor.edit((j) => removeAudio(j, piece.id)) && editor.select({ kind: 'journey' })"
        >Delete</v-btn
      >
    </div>
  </div>
</template>
