<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { isPlaceable } from '#core/edits/marks/photo-stops'
import DialogSheet from '~/components/DialogSheet.vue'
import { useEditor } from '~/stores/editor'
import { usePhotos } from '~/stores/photos'
import ClockField from './ClockField.vue'

/** Asks how far the camera's clock is off, where photos are placed by it along a recorded track. */
const editor = useEditor()
const photos = usePhotos()
const open = computed({
  get: () => photos.asked !== undefined,
  set: (shown) => !shown && (photos.asked = undefined),
})

/** In seconds, to be added to the camera's times. */
const offset = ref(0)
watch(
  () => photos.asked,
  (asked) => asked && (offset.value = asked.known?.seconds ?? 0),
)
const fits = computed(
  () => photos.asked?.byClock.filter((photo) => isPlaceable(editor.journey!, photo, editor.traveller!.id, offset.value)).length ?? 0,
)
const plural = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`
</script>

<template>
  <DialogSheet v-model="open" title="Place photos by the clock">
    <template v-if="photos.asked">
      <p>
        {{ plural(photos.asked.byClock.length, 'photo does', 'photos do') }} not say where
        {{ photos.asked.byClock.length === 1 ? 'it was' : 'they were' }} taken. The camera’s clock says where along the track that was.
      </p>
      <p v-if="photos.asked.known" data-testid="clock-known">
        How far it is off is estimated from
        {{ plural(photos.asked.known.photos, 'photo that says', 'photos that say') }} both where and when.
      </p>
      <p v-else data-testid="clock-assumed">It is assumed to be set to this computer’s time zone. If it was not, set how far it is off.</p>
      <ClockField v-model="offset" />
      <p class="quiet figures" role="status" data-testid="clock-fits">
        {{ fits }} of {{ photos.asked.byClock.length }} were taken while the track was recorded.
      </p>
    </template>
    <template #actions>
      <v-btn variant="text" @click="photos.asked = undefined">Cancel</v-btn>
      <v-btn color="accent" variant="flat" data-testid="place-photos" @click="photos.place(photos.asked!.photos, offset)"
        >Add the photos</v-btn
      >
    </template>
  </DialogSheet>
</template>
