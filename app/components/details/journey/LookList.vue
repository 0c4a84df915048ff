<script setup lang="ts">
import { computed } from 'vue'
import { JOURNEY_LOOKS } from '#core/dress/looks'
import { dressJourney } from '#core/edits/looks'
import { useLookPictures } from '~/composables/use-look-pictures'
import { useEditor } from '~/stores/editor'

/** Looks of the whole journey, as pictures of it; one click puts one on, one step of undo takes it off. */
const editor = useEditor()
const pictures = useLookPictures()
const shape = computed(() => `${editor.journey!.frame.width} / ${editor.journey!.frame.height}`)
</script>

<template>
  <p class="quiet">One click styles the map, lines, pins and lettering. Places, texts and times stay the same.</p>
  <div class="looks">
    <button
      v-for="look in JOURNEY_LOOKS"
      :key="look.id"
      type="button"
      :data-testid="`look-${look.id}`"
      @click="editor.edit((journey) => dressJourney(journey, look))"
    >
      <img v-if="pictures[look.id]" :src="pictures[look.id]" alt="" />
      <span v-else class="blank" :style="{ aspectRatio: shape, background: look.ground }" />
      <span>{{ look.name }}</span>
    </button>
  </div>
</template>

<style scoped>
.looks {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin-top: 8px;
}
button {
  display: grid;
  gap: 2px;
  padding: 3px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  font-size: 13px;
  text-align: center;
  cursor: pointer;
}
button:hover {
  border-color: var(--sea);
}
img,
.blank {
  display: block;
  width: 100%;
  border-radius: 2px;
}
</style>
