<script setup lang="ts">
import { computed } from 'vue'
import { addReframe, isSameShape, removeReframe } from '#core/edits/camera/reframe'
import { setFrame } from '#core/edits/journey'
import type { Aspect } from '#core/journey/create'
import { FRAME_SIZES } from '#core/journey/create'
import type { Size } from '#core/geometry/size'
import { useLastFrame } from '~/composables/use-last-frame'
import { useEditor } from '~/stores/editor'
import { nameOfShape } from './shape-names'

/** In which shape of frame the journey is worked on: its own, or one of the further ones that it is also exported in. */
const editor = useEditor()
const lastFrame = useLastFrame()

const all = computed(() => editor.document!)
const shapes = computed<(Size & { index: number | undefined })[]>(() => [
  { ...all.value.frame, index: undefined },
  ...all.value.reframes.map(({ width, height }, index) => ({ width, height, index })),
])
/** The middle one of the sizes on offer of each shape that the journey has not got yet. */
const more = computed(() =>
  (Object.keys(FRAME_SIZES) as Aspect[])
    .map((name) => ({ name, width: FRAME_SIZES[name][1][1], height: FRAME_SIZES[name][1][2] }))
    .filter((size) => !shapes.value.some((shape) => isSameShape(shape, size))),
)
/** As long as there is nothing in a journey, another shape takes the place of its own. */
const isBare = computed(() => all.value.stops.length === 0 && all.value.sheets.length === 0 && all.value.reframes.length === 0)
function add(size: Size) {
  if (isBare.value) {
    if (editor.edit((journey) => setFrame(journey, { ...journey.frame, width: size.width, height: size.height })))
      lastFrame.used(editor.journey!.frame)
    return
  }
  const index = all.value.reframes.length
  if (editor.editDocument((journey) => addReframe(journey, size))) editor.workIn(index)
}
function remove() {
  const index = editor.reframe!
  editor.workIn(undefined)
  editor.editDocument((journey) => removeReframe(journey, index))
}
const isIn = (index: number | undefined) => editor.reframe === index
</script>

<template>
  <v-menu>
    <template #activator="{ props: menu }">
      <button v-bind="menu" type="button" class="shape figures" :class="{ other: editor.reframe !== undefined }" data-testid="frame-shape">
        {{ nameOfShape(editor.journey!.frame) }}
        <span
          class="mark"
          aria-hidden="true"
          :style="{ aspectRatio: `${editor.journey!.frame.width} / ${editor.journey!.frame.height}` }"
        />
      </button>
    </template>
    <v-list density="compact" aria-label="Frame shapes">
      <v-list-item
        v-for="shape in shapes"
        :key="shape.index ?? 'own'"
        :active="isIn(shape.index)"
        :title="nameOfShape(shape)"
        :subtitle="`${shape.width} × ${shape.height}${shape.index === undefined ? ', the journey’s own' : ''}`"
        @click="editor.workIn(shape.index)"
      />
      <v-divider v-if="more.length > 0" />
      <v-list-item
        v-for="size in more"
        :key="size.name"
        :title="isBare ? size.name : `Also in ${size.name}`"
        :data-testid="`add-shape-${size.name}`"
        @click="add(size)"
      />
      <template v-if="editor.reframe !== undefined">
        <v-divider />
        <v-list-item :title="`Remove ${nameOfShape(editor.journey!.frame)}`" data-testid="remove-shape" @click="remove" />
      </template>
    </v-list>
  </v-menu>
</template>

<style scoped>
.shape {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-height: 32px;
  padding: 0 8px;
  font-size: 14px;
  font-weight: 600;
  border-radius: 4px;
  cursor: pointer;
}
.shape:hover {
  background: color-mix(in srgb, var(--ink) 8%, transparent);
}
.other {
  color: var(--vermilion);
}
.mark {
  height: 16px;
  border: 1.5px solid currentColor;
  border-radius: 2px;
}
</style>
