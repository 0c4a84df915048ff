<script setup lang="ts">
import { computed } from 'vue'
import { editPostcard, editStop, newPostcard } from '#core/edits/stops'
import type { Postcard, Stop } from '#core/journey/schema'
import { MOST_TILT } from '#core/journey/schema'
import { coarsestLevel } from '#core/sheet/pyramid'
import ColourField from '~/components/fields/ColourField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { tileAddress } from '~/services/addresses'
import { useEditor } from '~/stores/editor'
import { usePhotos } from '~/stores/photos'
import SidePicker from './SidePicker.vue'

/** The photo or text card that is shown at a stop for a while. */
const props = defineProps<{ stop: Stop }>()
const editor = useEditor()
const photos = usePhotos()
const { change, done } = useFieldEdits(() => `postcard ${props.stop.id}`)

const card = computed(() => props.stop.postcard)
const patch = (field: string, values: Partial<Postcard>) => change(field, (journey) => editPostcard(journey, props.stop.id, values))
const set = (postcard: Postcard | null) => editor.edit((journey) => editStop(journey, props.stop.id, { postcard }))

function addText() {
  if (set(newPostcard(props.stop, { text: props.stop.name || 'A few words' }))) photos.show(props.stop.id)
}

/** The photo's coarsest tile, which shows all of it. */
const thumbnail = computed(() => {
  const photo = card.value?.photo
  return photo && tileAddress(photo.image, { level: coarsestLevel(photo), column: 0, row: 0 })
})

const STAYS = [
  { value: 'rest', title: 'During the layover' },
  { value: 'for', title: 'For a set time' },
  { value: 'end', title: 'To the end of the film' },
] as const
/** The default for a set time, in seconds. */
const USUAL_SECONDS = 3
const stays = computed(() => (typeof card.value?.stays === 'number' ? 'for' : (card.value?.stays ?? 'rest')))
const setStays = (value: 'rest' | 'for' | 'end') => (patch('stays', { stays: value === 'for' ? USUAL_SECONDS : value }), done())
</script>

<template>
  <div v-if="!card" class="buttons">
    <v-btn size="small" variant="outlined" data-testid="postcard-photo" @click="photos.choosePostcard(stop.id)">Add a photo …</v-btn>
    <v-btn size="small" variant="outlined" data-testid="postcard-text" @click="addText">Add a text card</v-btn>
  </div>
  <template v-if="card">
    <button
      v-if="thumbnail"
      type="button"
      class="thumbnail"
      :aria-label="`Choose another photo for ${stop.name || 'this stop'}`"
      title="Choose another photo"
      @click="photos.choosePostcard(stop.id)"
    >
      <img :src="thumbnail" alt="" data-testid="postcard-thumbnail" />
    </button>
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
    <FieldRow v-slot="{ id }" label="Side">
      <SidePicker :aria-labelledby="id" :model-value="card.side" @change="(side) => (patch('side', { side }), done())" />
    </FieldRow>
    <NumberSlider
      label="Size"
      :model-value="card.size"
      :min="120"
      :max="1000"
      unit="px"
      @change="(size) => patch('size', { size })"
      @done="done"
    />
    <NumberSlider
      label="Tilt"
      :model-value="card.tilt"
      :min="-MOST_TILT"
      :max="MOST_TILT"
      unit="°"
      @change="(tilt) => patch('tilt', { tilt })"
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
    <ColourField label="Paper" :model-value="card.paper" @change="(paper) => patch('paper', { paper })" @done="done" />
    <ColourField label="Letters" :model-value="card.colour" @change="(colour) => patch('letters', { colour })" @done="done" />
    <div class="buttons">
      <v-btn size="small" variant="outlined" data-testid="show-postcard" @click="photos.show(stop.id)">Show it</v-btn>
      <v-btn v-if="!card.photo" size="small" variant="outlined" data-testid="postcard-photo" @click="photos.choosePostcard(stop.id)">
        Add a photo …
      </v-btn>
      <v-btn size="small" variant="outlined" color="error" data-testid="remove-postcard" @click="set(null)">Remove</v-btn>
    </div>
  </template>
</template>

<style scoped>
.thumbnail {
  display: block;
  margin: 4px 0 12px;
  padding: 5px;
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: #fbf6ea;
  cursor: pointer;
}
.thumbnail:hover {
  border-color: var(--quiet);
}
img {
  display: block;
  max-width: 180px;
  max-height: 130px;
}
.text {
  margin-bottom: 8px;
}
</style>
