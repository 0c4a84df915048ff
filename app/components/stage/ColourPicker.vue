<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { hexOf } from '#core/colour/srgb'
import type { Point } from '#core/geometry/point'
import { useStage } from '~/stores/stage'
import { pointerOn } from './stage-space'

/** Takes a colour from the picture of the stage: it is shown beside the pointer, and taken with a click; Escape gives up. */
const props = defineProps<{ canvas: HTMLCanvasElement | null }>()
const stage = useStage()
const seen = ref<{ at: Point; colour: string }>()

/** The mean colour of the pixel under the pointer and those round it. */
function look(event: PointerEvent) {
  const { canvas } = props
  if (!canvas) return
  const box = canvas.getBoundingClientRect()
  const at = pointerOn(canvas, event)
  const [x, y] = [Math.round((at.x * canvas.width) / box.width), Math.round((at.y * canvas.height) / box.height)]
  const { data } = canvas.getContext('2d')!.getImageData(x - 1, y - 1, 3, 3)
  const mean = (channel: number) => {
    let [sum, weight] = [0, 0]
    for (let i = 0; i < data.length; i += 4) {
      sum += data[i + channel]! * data[i + 3]!
      weight += data[i + 3]!
    }
    return weight > 0 ? sum / weight : 0
  }
  seen.value = { at: pointerOn(event.currentTarget as Element, event), colour: hexOf([mean(0), mean(1), mean(2)]) }
}
useEventListener(
  window,
  'keydown',
  (event) => {
    if (event.key !== 'Escape') return
    event.stopPropagation()
    stage.picked(undefined)
  },
  { capture: true },
)
</script>

<template>
  <div
    class="picker"
    data-testid="colour-picker"
    role="status"
    @pointermove="look"
    @pointerdown.stop.prevent="(event) => (look(event), stage.picked(seen?.colour))"
    @wheel.stop
  >
    <p class="hint">Click a colour in the picture; Escape cancels</p>
    <span v-if="seen" class="drop" :style="{ left: `${seen.at.x + 16}px`, top: `${seen.at.y + 16}px` }">
      <i :style="{ background: seen.colour }" />{{ seen.colour }}
    </span>
  </div>
</template>

<style scoped>
.picker {
  position: absolute;
  inset: 0;
  cursor: crosshair;
}
.hint,
.drop {
  position: absolute;
  padding: 3px 8px;
  border-radius: 3px;
  font-size: 13px;
  color: #fdf8ec;
  background: rgba(13, 21, 34, 0.85);
  pointer-events: none;
}
.hint {
  left: 50%;
  top: 8px;
  transform: translateX(-50%);
}
.drop {
  display: flex;
  align-items: center;
  gap: 6px;
}
i {
  width: 18px;
  height: 18px;
  border: 1px solid #fdf8ec;
  border-radius: 50%;
}
</style>
