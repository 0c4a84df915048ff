<script setup lang="ts">
import { mdiClose, mdiCompare, mdiViewSplitVertical } from '@mdi/js'
import { computed } from 'vue'
import { clamp } from '#core/geometry/clamp'
import type { Size } from '#core/geometry/size'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { useVersions } from '~/stores/versions'
import FilmPicture from './FilmPicture.vue'

/** A version of the journey over the present one, as far as a bar that is dragged across, or beside it, at the same moment. */
const props = defineProps<{ room: Size }>()
const editor = useEditor()
const versions = useVersions()

const name = computed(() => versions.compared!.version.name)
const half = computed(() => ({ width: Math.floor((props.room.width - GAP) / 2), height: props.room.height }))
/** Between two pictures, in CSS pixels. */
const GAP = 8
/** How far an arrow key moves the bar. */
const STEP = 0.05

const slideTo = (share: number) => (versions.share = clamp(share, 0, 1))
function drag(event: PointerEvent) {
  event.stopPropagation()
  const from = versions.share
  followPointer(event, { move: ({ x }) => slideTo(from + x / props.room.width), end: () => undefined })
}
function press(event: KeyboardEvent) {
  const steps: Partial<Record<string, number>> = { ArrowLeft: -STEP, ArrowRight: STEP, Home: -1, End: 1 }
  const step = steps[event.key]
  if (step === undefined) return
  event.preventDefault()
  event.stopPropagation()
  slideTo(versions.share + step)
}
const close = () => (versions.compared = undefined)
</script>

<template>
  <div class="compare" :class="{ beside: versions.isBeside }" data-testid="compare" @pointerdown.stop @wheel.stop>
    <template v-if="versions.isBeside">
      <figure>
        <figcaption>{{ name }}</figcaption>
        <FilmPicture :compiled="versions.compared!.compiled" :room="half" :label="`“${name}” at the play position`" />
      </figure>
      <figure>
        <figcaption>Now</figcaption>
        <FilmPicture :compiled="editor.compiled!" :room="half" label="The journey as it is now, at the play position" />
      </figure>
    </template>
    <template v-else>
      <div class="over" :style="{ clipPath: `inset(0 ${100 * (1 - versions.share)}% 0 0)` }">
        <FilmPicture :compiled="versions.compared!.compiled" :room="room" :label="`“${name}” at the play position`" />
      </div>
      <span v-show="versions.share > 0.15" class="name left">{{ name }}</span>
      <span v-show="versions.share < 0.85" class="name right">Now</span>
      <div
        class="bar"
        role="slider"
        tabindex="0"
        aria-label="How far the version covers the picture"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-valuenow="Math.round(100 * versions.share)"
        :style="{ left: `${100 * versions.share}%` }"
        data-testid="compare-bar"
        @pointerdown="drag"
        @keydown="press"
      >
        <span class="grip" />
      </div>
    </template>
    <div class="tools">
      <v-btn
        :icon="versions.isBeside ? mdiCompare : mdiViewSplitVertical"
        size="small"
        :aria-label="versions.isBeside ? 'One over the other' : 'Side by side'"
        :title="versions.isBeside ? 'One over the other' : 'Side by side'"
        data-testid="compare-layout"
        @click="versions.isBeside = !versions.isBeside"
      />
      <v-btn
        :icon="mdiClose"
        size="small"
        aria-label="Stop comparing"
        title="Stop comparing (Esc)"
        data-testid="compare-close"
        @click="close"
      />
    </div>
  </div>
</template>

<style scoped>
.compare {
  position: absolute;
  inset: 0;
  overflow: hidden;
  cursor: default;
}
.beside {
  display: flex;
  align-items: center;
  justify-content: space-between;
  background: #0d1522;
}
figure {
  position: relative;
  margin: 0;
}
.over {
  position: absolute;
  inset: 0;
  display: grid;
  place-items: center;
  background: #0d1522;
}
.name,
figcaption {
  padding: 1px 10px 2px;
  border-radius: 3px;
  background: rgba(13, 21, 34, 0.78);
  color: #fdf8ec;
  font-size: 12px;
  pointer-events: none;
}
.name {
  position: absolute;
  bottom: 10px;
  max-width: 40%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
figcaption {
  margin-bottom: 4px;
  width: fit-content;
}
.left {
  left: 10px;
}
.right {
  right: 10px;
}
.bar {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  margin-left: -12px;
  cursor: ew-resize;
  touch-action: none;
}
.bar::before {
  content: '';
  position: absolute;
  left: 11px;
  top: 0;
  bottom: 0;
  width: 2px;
  background: #fdf8ec;
  box-shadow: 0 0 4px rgba(13, 21, 34, 0.8);
}
.grip {
  position: absolute;
  left: 3px;
  top: calc(50% - 18px);
  width: 18px;
  height: 36px;
  border-radius: 9px;
  background: #fdf8ec;
  box-shadow: 0 0 6px rgba(13, 21, 34, 0.7);
}
.tools {
  position: absolute;
  top: 10px;
  right: 10px;
  display: flex;
  gap: 6px;
}
</style>
