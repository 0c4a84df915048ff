<script setup lang="ts">
import { boundsOf } from '#core/journey/bounds'
import { vehicleSchema } from '#core/journey/schema'
import { computed } from 'vue'
import { degrees, radians, wrapDegrees } from '#core/geometry/angle'
import { clamp } from '#core/geometry/clamp'
import type { Size } from '#core/geometry/size'
import { useElementSize } from '@vueuse/core'
import { useTemplateRef } from 'vue'
import { pointerOn } from '~/components/stage/stage-space'
import NumberField from '~/components/fields/NumberField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import { followPointer } from '~/composables/use-pointer-drag'
import type { Look } from '~/stores/own-picture'

/** Where a picture rides on its line, and which way it faces: dragged on the picture, or typed. The slot draws the picture. */
const props = defineProps<{ size: Size; look: Look }>()
const emit = defineEmits<{ change: [look: Look]; done: [] }>()

const board = useTemplateRef('board')
const { width, height } = useElementSize(board)
const anchor = computed(() => ({ x: props.look.anchor.x * width.value, y: props.look.anchor.y * height.value }))
const ARROW = 58
const tip = computed(() => {
  const angle = radians(props.look.facing)
  return { x: anchor.value.x + ARROW * Math.cos(angle), y: anchor.value.y + ARROW * Math.sin(angle) }
})

const setAnchor = (x: number, y: number) => emit('change', { ...props.look, anchor: { x: clamp(x, 0, 1), y: clamp(y, 0, 1) } })
const setFacing = (facing: number) => emit('change', { ...props.look, facing: Math.round(wrapDegrees(facing)) })

function pressAnchor(event: PointerEvent) {
  followPointer(event, {
    move: (_by, now) => {
      const p = pointerOn(board.value!, now)
      setAnchor(p.x / width.value, p.y / height.value)
    },
    end: () => emit('done'),
  })
}
function pressTip(event: PointerEvent) {
  followPointer(event, {
    move: (_by, now) => {
      const p = pointerOn(board.value!, now)
      setFacing(degrees(Math.atan2(p.y - anchor.value.y, p.x - anchor.value.x)))
    },
    end: () => emit('done'),
  })
}
</script>

<template>
  <div class="frame">
    <div ref="board" class="board" :style="{ aspectRatio: `${size.width} / ${size.height}` }">
      <slot />
      <svg class="handles" :viewBox="`0 0 ${width || 1} ${height || 1}`">
        <template v-if="look.view !== 'upright'">
          <line class="edge" :x1="anchor.x" :y1="anchor.y" :x2="tip.x" :y2="tip.y" />
          <line class="arrow" :x1="anchor.x" :y1="anchor.y" :x2="tip.x" :y2="tip.y" />
          <circle class="tip" :cx="tip.x" :cy="tip.y" r="9" data-testid="facing-handle" @pointerdown.prevent="pressTip" />
        </template>
        <circle class="anchor" :cx="anchor.x" :cy="anchor.y" r="9" data-testid="anchor-handle" @pointerdown.prevent="pressAnchor" />
      </svg>
    </div>
  </div>
  <FieldRow v-if="look.view !== 'upright'" v-slot="{ id }" label="Faces">
    <NumberField
      :labelledby="id"
      :model-value="look.facing"
      v-bind="boundsOf(vehicleSchema, 'facing')"
      :step="5"
      :precision="0"
      unit="°"
      @change="setFacing"
      @done="emit('done')"
    />
  </FieldRow>
  <FieldRow v-slot="{ id }" :label="look.view === 'upright' ? 'Stands at' : 'Rides at'">
    <div class="pair">
      <NumberField
        v-for="axis in ['x', 'y'] as const"
        :key="axis"
        :labelledby="id"
        :model-value="Math.round(look.anchor[axis] * 100)"
        :min="0"
        :max="100"
        :step="1"
        :precision="0"
        :unit="axis === 'x' ? '% across' : '% down'"
        @change="(value) => (axis === 'x' ? setAnchor(value / 100, look.anchor.y) : setAnchor(look.anchor.x, value / 100))"
        @done="emit('done')"
      />
    </div>
  </FieldRow>
</template>

<style scoped>
.frame {
  display: grid;
  place-items: center;
  padding: 34px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: repeating-conic-gradient(#d9d4c6 0% 25%, #f1ecdf 0% 50%) 0 0 / 18px 18px;
}
.board {
  position: relative;
  width: 100%;
  max-width: 300px;
  max-height: 240px;
}
.handles {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
}
.edge {
  stroke: #ffffff;
  stroke-width: 6;
}
.arrow {
  stroke: var(--vermilion);
  stroke-width: 3;
}
.tip {
  fill: #ffffff;
  stroke: var(--vermilion);
  stroke-width: 3;
  cursor: grab;
}
.anchor {
  fill: var(--vermilion);
  stroke: #ffffff;
  stroke-width: 3;
  cursor: move;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
</style>
