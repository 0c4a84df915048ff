<script setup lang="ts">
import { computed } from 'vue'
import { lookOfCard } from '#core/dress/own-styles'
import { editPostcard, removePostcard } from '#core/edits/marks/postcards'
import { boundsOf } from '#core/journey/bounds'
import type { CardFrame, Postcard, Stop } from '#core/journey/schema'
import { postcardSchema } from '#core/journey/schema'
import { USUAL_CARD } from '#core/marks/card-times'
import { coarsestLevel } from '#core/sheet/pyramid'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import LastsField from '~/components/fields/LastsField.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import OwnStyles from '~/components/fields/OwnStyles.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { tileAddress } from '~/services/addresses'
import { useEditor } from '~/stores/editor'
import { usePhotos } from '~/stores/photos'
import CardFramePicture from './CardFramePicture.vue'
import CropField from '../marks/CropField.vue'
import SidePicker from '../../fields/SidePicker.vue'

/** One photo or text card that is shown at a stop for a while. */
const props = defineProps<{ stop: Stop; card: Postcard }>()
const editor = useEditor()
const photos = usePhotos()
const { change, done } = useFieldEdits(() => `postcard ${props.stop.id} ${props.card.id}`)

const patch = (field: string, values: Partial<Omit<Postcard, 'id'>>) =>
  change(field, (journey) => editPostcard(journey, props.stop.id, props.card.id, values))
const set = (values: Partial<Omit<Postcard, 'id'>>) => (done(), patch('once', values), done())

/** The photo's coarsest tile, which shows all of it. */
const thumbnail = computed(() => {
  const { photo } = props.card
  return photo && tileAddress(photo.image, { level: coarsestLevel(photo), column: 0, row: 0 })
})

const FRAMES: readonly { value: CardFrame; title: string }[] = [
  { value: 'print', title: 'Print' },
  { value: 'plate', title: 'Plate' },
  { value: 'torn', title: 'Torn paper' },
  { value: 'round', title: 'Round' },
  { value: 'plain', title: 'Plain' },
  { value: 'cinema', title: 'Cinema' },
]
const COMINGS = [
  { value: 'pop', title: 'Pops up' },
  { value: 'fade', title: 'Fades in' },
  { value: 'rise', title: 'Rises' },
  { value: 'swing', title: 'Swings in' },
  { value: 'unroll', title: 'Unrolls' },
  { value: 'none', title: 'Appears' },
] as const satisfies readonly { value: Postcard['comes']; title: string }[]
const GOINGS = [
  { value: 'fade', title: 'Fades out' },
  { value: 'shrink', title: 'Shrinks' },
  { value: 'sink', title: 'Sinks' },
  { value: 'roll-up', title: 'Rolls up' },
  { value: 'none', title: 'Disappears' },
] as const satisfies readonly { value: Postcard['goes']; title: string }[]

const STAYS = [
  { value: 'rest', title: 'During the layover' },
  { value: 'for', title: 'For a set time' },
  { value: 'end', title: 'To the end of the film' },
] as const
/** The default for a set time, in seconds. */
const USUAL_SECONDS = 3
const stays = computed(() => (typeof props.card.stays === 'number' ? 'for' : props.card.stays))

const setStays = (value: 'rest' | 'for' | 'end') => set({ stays: value === 'for' ? USUAL_SECONDS : value })

const PLACES = [
  { value: 'side', title: 'Side' },
  { value: 'free', title: 'By hand' },
] as const
function setPlace(kind: Postcard['place']['kind']) {
  if (kind === props.card.place.kind) return
  set({ place: kind === 'side' ? { kind, side: 'top' } : { kind, x: 0, y: -Math.round(props.stop.pin.size + props.card.size / 2) } })
}

const lookNote = computed(() => {
  const { tilt, stalk, dims } = props.card
  return [tilt !== 0 && `${tilt}°`, stalk && 'stalk', dims > 0 && 'dimmed map'].filter(Boolean).join(', ') || 'straight'
})
const timeNote = computed(() => STAYS.find(({ value }) => value === stays.value)!.title.toLowerCase())
</script>

<template>
  <PictureChoice
    v-slot="{ choice }"
    label="Frame"
    :model-value="card.frame"
    :choices="FRAMES"
    :columns="6"
    @change="(frame) => set({ frame })"
  >
    <CardFramePicture :frame="choice.value" />
  </PictureChoice>
  <OwnStyles kind="card" :look="lookOfCard(card)" @apply="set" />
  <CropField v-if="thumbnail" :picture="thumbnail" :model-value="card.crop" @change="(crop) => patch('crop', { crop })" @done="done" />
  <v-textarea
    :label="card.photo ? 'Caption' : 'Text'"
    class="text"
    rows="1"
    auto-grow
    maxlength="240"
    data-testid="postcard-words"
    :model-value="card.text"
    @update:model-value="(text) => patch('text', { text })"
    @blur="done"
  />
  <ChoiceRow label="Place" :model-value="card.place.kind" :choices="PLACES" @change="setPlace" />
  <FieldRow v-if="card.place.kind === 'side'" v-slot="{ id }" label="Side">
    <SidePicker :aria-labelledby="id" :model-value="card.place.side" @change="(side) => set({ place: { kind: 'side', side } })" />
  </FieldRow>
  <FieldRow v-else label="From the stop" role="group">
    <div class="pair">
      <NumberField
        v-for="axis in ['x', 'y'] as const"
        :key="axis"
        :label="axis"
        :model-value="card.place[axis]"
        v-bind="boundsOf(postcardSchema, 'place.x')"
        unit="px"
        @change="(value) => card.place.kind === 'free' && patch(axis, { place: { ...card.place, [axis]: value } })"
        @done="done"
      />
    </div>
  </FieldRow>
  <NumberSlider
    label="Size"
    :model-value="card.size"
    v-bind="boundsOf(postcardSchema, 'size')"
    :usual="[120, 1000]"
    unit="px"
    @change="(size) => patch('size', { size })"
    @done="done"
  />
  <FoldedSection title="Tilt, shadow, colours" :note="lookNote">
    <NumberSlider
      label="Tilt"
      :model-value="card.tilt"
      v-bind="boundsOf(postcardSchema, 'tilt')"
      unit="°"
      @change="(tilt) => patch('tilt', { tilt })"
      @done="done"
    />
    <PercentSlider label="Shadow" :model-value="card.shadow" @change="(shadow) => patch('shadow', { shadow })" @done="done" />
    <PercentSlider label="Dim the map" :model-value="card.dims" @change="(dims) => patch('dims', { dims })" @done="done" />
    <v-switch
      label="Leader line from the stop to the card"
      :model-value="card.stalk"
      @update:model-value="(stalk) => set({ stalk: stalk === true })"
    />
    <ColourField label="Paper" :model-value="card.paper" @change="(paper) => patch('paper', { paper })" @done="done" />
    <ColourField label="Letters" :model-value="card.colour" @change="(colour) => patch('letters', { colour })" @done="done" />
  </FoldedSection>
  <FoldedSection title="Entrance, exit, duration" :note="timeNote">
    <FieldRow v-slot="{ id }" label="Comes">
      <v-select
        :aria-labelledby="id"
        :items="COMINGS"
        :model-value="card.comes"
        data-testid="postcard-comes"
        @update:model-value="(comes) => set({ comes: comes as Postcard['comes'] })"
      />
    </FieldRow>
    <LastsField
      v-if="card.comes !== 'none'"
      label="Takes"
      :model-value="card.comesIn"
      :usual="USUAL_CARD.coming"
      @change="(comesIn) => patch('comes in', { comesIn })"
      @done="done"
    />
    <FieldRow v-slot="{ id }" label="Goes">
      <v-select
        :aria-labelledby="id"
        :items="GOINGS"
        :model-value="card.goes"
        data-testid="postcard-goes"
        @update:model-value="(goes) => set({ goes: goes as Postcard['goes'] })"
      />
    </FieldRow>
    <LastsField
      v-if="card.goes !== 'none'"
      label="Takes"
      :model-value="card.goesIn"
      :usual="USUAL_CARD.going"
      @change="(goesIn) => patch('goes in', { goesIn })"
      @done="done"
    />
    <FieldRow v-slot="{ id }" label="Stays">
      <v-select
        :aria-labelledby="id"
        :items="STAYS"
        :model-value="stays"
        data-testid="postcard-stays"
        @update:model-value="(value) => setStays(value as typeof stays)"
      />
    </FieldRow>
    <FieldRow v-if="typeof card.stays === 'number'" v-slot="{ id }" label="Seconds">
      <NumberField
        :labelledby="id"
        :model-value="card.stays"
        :min="0.5"
        :max="60"
        :step="0.1"
        :precision="2"
        unit="s"
        @change="(value) => patch('seconds', { stays: value })"
        @done="done"
      />
    </FieldRow>
  </FoldedSection>
  <div class="buttons">
    <v-btn size="small" variant="outlined" data-testid="show-postcard" @click="photos.show(stop.id, card.id)">Show it</v-btn>
    <v-btn size="small" variant="outlined" data-testid="change-photo" @click="photos.choosePostcard(stop.id, card.id)">
      {{ card.photo ? 'Replace the photo …' : 'Use a photo …' }}
    </v-btn>
    <v-btn
      size="small"
      variant="outlined"
      color="error"
      data-testid="remove-postcard"
      @click="editor.edit((journey) => removePostcard(journey, stop.id, card.id))"
    >
      Remove
    </v-btn>
  </div>
</template>

<style scoped>
.text {
  margin-bottom: 8px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
</style>
