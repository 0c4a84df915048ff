<script setup lang="ts">
import { computed } from 'vue'
import { useToolKeys } from '~/composables/use-tool-keys'
import { useStage } from '~/stores/stage'
import { useTracks } from '~/stores/tracks'
import type { StageSpace } from '~/components/stage/stage-space'
import { placeOnStage } from '~/components/stage/stage-space'
import TrackPicture from './TrackPicture.vue'

/** Shows which place of a track has to be clicked on the map next. */
defineProps<{ space: StageSpace }>()
const stage = useStage()
const tracks = useTracks()

const WORDS = ['Click on the map where the track begins: A.', 'Now click where its place B lies.', 'And C, or finish with two.']
const words = computed(() => WORDS[tracks.matched.length] ?? 'Placing the track …')

const back = () => stage.setTool('select')
useToolKeys(({ key }) => (key === 'Escape' ? back : undefined))
</script>

<template>
  <svg class="marks" aria-hidden="true">
    <g v-for="(p, i) in tracks.matched" :key="i" :transform="`translate(${placeOnStage(space, p)})`">
      <circle r="9" />
      <text y="4">{{ 'ABC'[i] }}</text>
    </g>
  </svg>
  <div v-if="tracks.overview" class="panel" @pointerdown.stop @wheel.stop>
    <TrackPicture class="picture" :overview="tracks.overview" :places="3" />
    <div>
      <p role="status">{{ words }}</p>
      <div class="row">
        <v-btn size="small" variant="text" @click="back">Back</v-btn>
        <v-btn
          v-if="tracks.matched.length === 2"
          size="small"
          color="accent"
          variant="flat"
          data-testid="two-are-enough"
          @click="tracks.finishMatched()"
          >Finish with two</v-btn
        >
      </div>
    </div>
  </div>
</template>

<style scoped>
.marks {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
circle {
  fill: #14233a;
  stroke: #fdf8ec;
  stroke-width: 1.5;
}
text {
  fill: #fdf8ec;
  font-size: 12px;
  font-weight: 700;
  text-anchor: middle;
}
.panel {
  position: absolute;
  left: 10px;
  bottom: 42px;
  display: flex;
  gap: 14px;
  padding: 10px 12px;
  border-radius: 6px;
  background: var(--surface);
  box-shadow: 0 4px 18px rgba(13, 21, 34, 0.35);
  cursor: auto;
  font-size: 14px;
}
.picture {
  width: 110px;
}
.row {
  display: flex;
  gap: 8px;
  margin-top: 8px;
}
</style>
