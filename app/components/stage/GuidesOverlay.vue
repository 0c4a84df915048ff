<script setup lang="ts">
import { computed } from 'vue'
import type { Aspect } from '#core/journey/create'
import { FRAME_SIZES } from '#core/journey/create'
import type { Guides } from '~/stores/stage'

/** Lines over the lens that help to compose a picture; they are not in the film. */
const props = defineProps<{ guides: Guides; size: { width: number; height: number } }>()

/** Shares of the frame within which pictures and titles are safe: SMPTE ST 2046-1 has 93 and 90 %, older television 90 and 80 % (common practice, no source). */
const SAFE = [0.9, 0.8] as const

const boxes = computed(() =>
  SAFE.map((share) => {
    const { width, height } = props.size
    return { share, x: (width * (1 - share)) / 2, y: (height * (1 - share)) / 2, width: width * share, height: height * share }
  }),
)
/** The largest part of the frame in each other shape that is on offer. */
const crops = computed(() =>
  (Object.keys(FRAME_SIZES) as Aspect[]).flatMap((name) => {
    const [w, h] = name.split(':').map(Number) as [number, number]
    const { width, height } = props.size
    const k = Math.min(width / w, height / h)
    const crop = { name, width: w * k, height: h * k }
    const isOwn = Math.abs(crop.width - width) < 2 && Math.abs(crop.height - height) < 2
    return isOwn ? [] : [{ ...crop, x: (width - crop.width) / 2, y: (height - crop.height) / 2 }]
  }),
)
</script>

<template>
  <svg class="guides" :viewBox="`0 0 ${size.width} ${size.height}`" aria-hidden="true" data-testid="guides">
    <template v-for="line in ['under', 'over']" :key="line">
      <g :class="line">
        <template v-if="guides.thirds">
          <path v-for="k in [1, 2]" :key="k" :d="`M${(size.width * k) / 3} 0V${size.height}M0 ${(size.height * k) / 3}H${size.width}`" />
        </template>
        <template v-if="guides.safe">
          <rect
            v-for="box in boxes"
            :key="box.share"
            :x="box.x"
            :y="box.y"
            :width="box.width"
            :height="box.height"
            stroke-dasharray="7 5"
          />
        </template>
        <template v-if="guides.crops">
          <rect v-for="crop in crops" :key="crop.name" :x="crop.x" :y="crop.y" :width="crop.width" :height="crop.height" />
        </template>
      </g>
    </template>
    <template v-if="guides.safe">
      <text v-for="box in boxes" :key="box.share" :x="box.x + box.width - 4" :y="box.y + 13" text-anchor="end">
        {{ box.share * 100 }} %
      </text>
    </template>
    <template v-if="guides.crops">
      <text v-for="crop in crops" :key="crop.name" :x="crop.x + 5" :y="crop.y + crop.height - 6">{{ crop.name }}</text>
    </template>
  </svg>
</template>

<style scoped>
.guides {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.guides g {
  fill: none;
}
.under {
  stroke: rgba(13, 21, 34, 0.55);
  stroke-width: 2.6;
}
.over {
  stroke: #fdf8ec;
  stroke-width: 1;
}
text {
  font-size: 11px;
  fill: #fdf8ec;
  paint-order: stroke;
  stroke: rgba(13, 21, 34, 0.75);
  stroke-width: 3;
}
</style>
