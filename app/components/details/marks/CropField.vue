<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import type { PhotoCrop } from '#core/journey/schema'
import { LEAST_CROP } from '#core/journey/schema'
import { clamp } from '#core/geometry/clamp'
import { followPointer } from '~/composables/use-pointer-drag'

/** The part of a photo that is shown: a frame over it, dragged as a whole or by its corners; the arrow keys do the same. */
const props = defineProps<{ picture: string; modelValue: PhotoCrop | null }>()
const emit = defineEmits<{ change: [crop: PhotoCrop | null]; done: [] }>()

const WHOLE: PhotoCrop = { left: 0, top: 0, right: 1, bottom: 1 }
const crop = computed(() => props.modelValue ?? WHOLE)
const image = useTemplateRef<HTMLImageElement>('image')

type Grip = 'whole' | 'top-left' | 'top-right' | 'bottom-left' | 'bottom-right'
const GRIPS = ['top-left', 'top-right', 'bottom-left', 'bottom-right'] as const satisfies readonly Grip[]

/** A crop whose grip has been moved by shares of the photo. */
function moved(from: PhotoCrop, grip: Grip, x: number, y: number): PhotoCrop {
  const { left, top, right, bottom } = from
  if (grip === 'whole') {
    const [dx, dy] = [clamp(x, -left, 1 - right), clamp(y, -top, 1 - bottom)]
    return { left: left + dx, right: right + dx, top: top + dy, bottom: bottom + dy }
  }
  return {
    left: grip.endsWith('left') ? clamp(left + x, 0, right - LEAST_CROP) : left,
    right: grip.endsWith('right') ? clamp(right + x, left + LEAST_CROP, 1) : right,
    top: grip.startsWith('top') ? clamp(top + y, 0, bottom - LEAST_CROP) : top,
    bottom: grip.startsWith('bottom') ? clamp(bottom + y, top + LEAST_CROP, 1) : bottom,
  }
}

/** To a ten-thousandth, so that documents stay readable; the whole photo is no crop. */
function take(next: PhotoCrop) {
  const round = (share: number) => Math.round(share * 1e4) / 1e4
  const { left, top, right, bottom } = next
  const rounded = { left: round(left), top: round(top), right: round(right), bottom: round(bottom) }
  const isWhole = rounded.left === 0 && rounded.top === 0 && rounded.right === 1 && rounded.bottom === 1
  emit('change', isWhole ? null : rounded)
}

function press(event: PointerEvent, grip: Grip) {
  event.stopPropagation()
  const from = crop.value
  const { width, height } = image.value!.getBoundingClientRect()
  followPointer(event, { move: (by) => take(moved(from, grip, by.x / width, by.y / height)), end: () => emit('done') })
}

/** So far goes a press of an arrow key, as a share of the photo. */
const NUDGE = 0.01
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function nudge(event: KeyboardEvent, grip: Grip) {
  const way = ARROWS[event.key]
  if (!way) return
  event.preventDefault()
  event.stopPropagation()
  const step = event.shiftKey ? 10 * NUDGE : NUDGE
  take(moved(crop.value, grip, way[0] * step, way[1] * step))
  emit('done')
}

const percent = (share: number) => `${share * 100}%`
const box = computed(() => {
  const { left, top, right, bottom } = crop.value
  return { left: percent(left), top: percent(top), width: percent(right - left), height: percent(bottom - top) }
})
const told = computed(() => {
  const { left, top, right, bottom } = crop.value
  const from = (share: number) => `${Math.round(share * 100)}`
  return `${from(left)} to ${from(right)} % across, ${from(top)} to ${from(bottom)} % down`
})
</script>

<template>
  <div class="crop">
    <img ref="image" :src="picture" alt="" draggable="false" data-testid="postcard-thumbnail" />
    <div
      class="frame"
      tabindex="0"
      role="group"
      :aria-label="`Shown part of the photo: ${told}. Move it with the arrow keys`"
      :style="box"
      @pointerdown="press($event, 'whole')"
      @keydown="nudge($event, 'whole')"
    >
      <button
        v-for="grip in GRIPS"
        :key="grip"
        type="button"
        :class="grip"
        :aria-label="`${grip.replace('-', ' ')} corner of the shown part`"
        @pointerdown="press($event, grip)"
        @keydown="nudge($event, grip)"
      />
    </div>
  </div>
</template>

<style scoped>
.crop {
  position: relative;
  width: fit-content;
  margin: 4px 0 10px;
  overflow: hidden;
  touch-action: none;
}
img {
  display: block;
  max-width: 100%;
  max-height: 150px;
  user-select: none;
}
.frame {
  position: absolute;
  cursor: move;
  border: 1.5px solid #fdf8ec;
  box-shadow:
    0 0 0 1px #14233a,
    0 0 0 2000px rgba(13, 21, 34, 0.5);
}
.frame:focus-visible {
  outline: 2px solid var(--vermilion);
}
button {
  position: absolute;
  width: 24px;
  height: 24px;
  cursor: nwse-resize;
}
button::after {
  content: '';
  position: absolute;
  inset: 7px;
  background: #fdf8ec;
  border: 1.5px solid #14233a;
  border-radius: 2px;
}
.top-right,
.bottom-left {
  cursor: nesw-resize;
}
.top-left {
  left: -3px;
  top: -3px;
}
.top-right {
  right: -3px;
  top: -3px;
}
.bottom-left {
  left: -3px;
  bottom: -3px;
}
.bottom-right {
  right: -3px;
  bottom: -3px;
}
</style>
