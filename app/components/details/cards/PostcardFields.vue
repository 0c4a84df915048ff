<script setup lang="ts">
import { nanoid } from 'nanoid'
import { computed, ref, watch } from 'vue'
import { addPostcard, movePostcard, newPostcard } from '#core/edits/marks/postcards'
import type { Stop } from '#core/journey/schema'
import { LIMITS } from '#core/journey/schema'
import SortableList from '~/components/fields/SortableList.vue'
import { useEditor } from '~/stores/editor'
import { usePhotos } from '~/stores/photos'
import CardFields from './CardFields.vue'

/** The cards that are shown at a stop, one after the other. */
const props = defineProps<{ stop: Stop }>()
const editor = useEditor()
const photos = usePhotos()

const cards = computed(() => props.stop.postcards)
const chosen = ref<string>()
const card = computed(() => cards.value.find(({ id }) => id === chosen.value) ?? cards.value[0])
// A card that has just been added is the one to work on.
watch(cards, (now, before) => {
  const added = now.find(({ id }) => !before.some((known) => known.id === id))
  if (added) chosen.value = added.id
})

function addText() {
  const made = newPostcard(props.stop, nanoid(10), { text: props.stop.name || 'A few words' })
  if (editor.edit((journey) => addPostcard(journey, props.stop.id, made))) photos.show(props.stop.id, made.id)
}
const nameOf = (text: string, hasPhoto: boolean, i: number) =>
  text.split('\n')[0]!.trim() || (hasPhoto ? `Photo ${i + 1}` : `Card ${i + 1}`)
</script>

<template>
  <SortableList
    v-if="cards.length > 1"
    label="Postcards, in the order in which they are shown"
    testid="postcard"
    :entries="cards.map(({ id, text, photo }, i) => ({ id, name: nameOf(text, photo !== null, i) }))"
    :chosen="card?.id"
    @choose="(id) => ((chosen = id), photos.show(stop.id, id))"
    @move="(from, to) => editor.edit((journey) => movePostcard(journey, stop.id, from, to))"
  />
  <CardFields v-if="card" :key="card.id" :stop="stop" :card="card" />
  <div v-if="cards.length < LIMITS.postcards" class="buttons">
    <v-btn size="small" variant="outlined" data-testid="postcard-photo" @click="photos.choosePostcard(stop.id)">
      {{ card ? 'Another photo …' : 'Add a photo …' }}
    </v-btn>
    <v-btn size="small" variant="outlined" data-testid="postcard-text" @click="addText">
      {{ card ? 'Another text card' : 'Add a text card' }}
    </v-btn>
  </div>
</template>
