<script setup lang="ts">
import { computed } from 'vue'
import { coversFrame, fillingView, fittingView, sharpness } from '#core/camera/view'
import { setCamera, setGround } from '#core/journey/edits'
import ColourField from '~/components/fields/ColourField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import WashFields from './WashFields.vue'

defineEmits<{ import: [] }>()
const editor = useEditor()
const stage = useStage()
const { change, done } = useFieldEdits(() => 'sheet')

const journey = computed(() => editor.journey!)
const sheet = computed(() => journey.value.sheets[0])
const filling = computed(() => fillingView(sheet.value!, stage.reference))
/** Zoom in percent of the one at which the sheet just fills the frame. */
const zoom = computed(() => Math.round((journey.value.camera.zoom / filling.value.zoom) * 1000) / 10)
const pixels = computed(() => sharpness(journey.value.camera, journey.value.frame))
const covers = computed(() => coversFrame(sheet.value!, journey.value.camera, stage.reference))

const setZoom = (percent: number) => change('zoom', (j) => setCamera(j, { ...j.camera, zoom: (filling.value.zoom * percent) / 100 }))
const fill = () => editor.edit((j) => setCamera(j, filling.value))
const fit = () => editor.edit((j) => setCamera(j, fittingView(sheet.value!, stage.reference)))
</script>

<template>
  <div v-if="sheet">
    <h2>{{ sheet.name }}</h2>
    <p class="quiet figures">{{ sheet.width }} × {{ sheet.height }} pixels</p>
    <div class="buttons">
      <v-btn size="small" variant="outlined" @click="$emit('import')">Replace the picture</v-btn>
    </div>

    <h3>Wash</h3>
    <WashFields :sheet="sheet" />

    <h3>In the frame</h3>
    <p class="quiet">Drag the picture in the lens, and turn the wheel to scale it.</p>
    <NumberSlider label="Scale" :model-value="zoom" :min="20" :max="800" :step="1" :precision="1" unit="%" @change="setZoom" @done="done" />
    <div class="buttons">
      <v-btn size="small" variant="outlined" @click="fill">Fill the frame</v-btn>
      <v-btn size="small" variant="outlined" @click="fit">Show all of it</v-btn>
    </div>
    <p v-if="!covers" class="warning" role="status">The sheet does not reach all edges of the frame; the ground’s colour shows there.</p>

    <h3>Sharpness</h3>
    <p class="figures" data-testid="sharpness">
      <template v-if="pixels >= 1">
        {{ pixels.toFixed(2) }} sheet pixels for each pixel of the film: you can zoom in {{ pixels.toFixed(1) }} times further before pixels
        show.
      </template>
      <template v-else>
        Only {{ pixels.toFixed(2) }} sheet pixels for each pixel of the film: it will look soft. Scale it down to
        {{ (zoom * pixels).toFixed(0) }} %, or use a larger picture.
      </template>
    </p>

    <h3>Beyond the edge</h3>
    <ColourField
      label="Ground"
      :model-value="journey.ground"
      @change="(value) => change('ground', (j) => setGround(j, value))"
      @done="done"
    />
  </div>
  <div v-else>
    <h2>No map yet</h2>
    <p>Bring in a picture of your map: PNG, JPEG or WebP, up to 150 megapixels. You can also drop it on the stage.</p>
    <div class="buttons">
      <v-btn color="accent" variant="flat" @click="$emit('import')">Choose a picture</v-btn>
    </div>
    <h3>Ground</h3>
    <ColourField
      label="Colour"
      :model-value="journey.ground"
      @change="(value) => change('ground', (j) => setGround(j, value))"
      @done="done"
    />
  </div>
</template>

<style scoped>
.warning {
  margin-top: 10px;
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
</style>
