<script setup lang="ts">
import { computed } from 'vue'
import type { Sheet } from '#core/journey/schema'
import { coversFrame, fillingView, fittingView } from '#core/sheet/framing'
import { hasPixels, sharpness, sharpZoom } from '#core/sheet/sharpness'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** How the first sheet lies in the frame, and how sharp it is there. */
const props = defineProps<{ sheet: Sheet }>()
const editor = useEditor()
const stage = useStage()
const camera = useCamera()

const journey = computed(() => editor.journey!)
const filling = computed(() => fillingView(props.sheet, stage.reference))
/** Zoom in percent; at 100 the sheet just fills the frame. */
const percentOf = (zoom: number) => (zoom / filling.value.zoom) * 100
const zoom = computed(() => Math.round(percentOf(camera.view.zoom) * 10) / 10)
const pixels = computed(() => sharpness(props.sheet, camera.view, journey.value.frame))
const sharpest = computed(() => Math.floor(percentOf(sharpZoom(props.sheet, journey.value.frame))))
const covers = computed(() => coversFrame(props.sheet, camera.view, stage.reference))

const setZoom = (percent: number) => camera.look((view) => ({ ...view, zoom: (filling.value.zoom * percent) / 100 }), 'sheet zoom')
const fill = () => camera.show(filling.value)
const fit = () => camera.show(fittingView(props.sheet, stage.reference))
</script>

<template>
  <h3>In the frame</h3>
  <p class="quiet">Drag the map in the lens, and turn the wheel to scale it.</p>
  <NumberSlider
    label="Scale"
    :model-value="zoom"
    :min="20"
    :max="800"
    :step="1"
    :precision="1"
    unit="%"
    @change="setZoom"
    @done="editor.endGesture()"
  />
  <div class="buttons">
    <v-btn size="small" variant="outlined" @click="fill">Fill the frame</v-btn>
    <v-btn size="small" variant="outlined" @click="fit">Show all of it</v-btn>
  </div>
  <p v-if="!covers && journey.ground.edge === 'plain'" class="warning" role="status">
    The sheet does not reach every edge of the frame, so the ground colour shows. See “Beyond the edge”.
  </p>

  <h3>Sharpness</h3>
  <p class="figures" data-testid="sharpness">
    <template v-if="!hasPixels(sheet)">A vector map: sharp at any zoom.</template>
    <template v-else-if="pixels >= 1">
      {{ pixels.toFixed(2) }} sheet pixels for each pixel of the film: sharp up to a scale of {{ sharpest }} %, which is
      {{ pixels.toFixed(1) }} times further in.
    </template>
    <template v-else>
      Only {{ pixels.toFixed(2) }} sheet pixels for each pixel of the film: it will look soft. Scale it down to {{ sharpest }} %, or use a
      larger picture.
    </template>
  </p>
</template>

<style scoped>
.warning {
  margin-top: 10px;
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
</style>
