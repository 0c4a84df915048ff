<script setup lang="ts">
import { mdiCrop, mdiRotateLeft, mdiRotateRight } from '@mdi/js'
import { cropSheet, turnSheet } from '#core/edits/ground/sheets'
import { boundsOf } from '#core/journey/bounds'
import type { Sheet } from '#core/journey/schema'
import { sheetSchema } from '#core/journey/schema'
import { wrapDegrees } from '#core/geometry/angle'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** Turning, straightening and cropping a sheet. */
const props = defineProps<{ sheet: Sheet }>()
const editor = useEditor()
const stage = useStage()
const { change, done } = useFieldEdits(() => `sheet ${props.sheet.id}`)

const turn = (degrees: number) => turnTo(wrapDegrees(props.sheet.place.rotation + degrees))
const turnTo = (rotation: number) => change('turn', (journey) => turnSheet(journey, props.sheet.id, rotation - props.sheet.place.rotation))
function turnOnce(degrees: number) {
  done()
  turn(degrees)
  done()
}
const toggle = (tool: 'straighten' | 'crop') => stage.setTool(stage.tool === tool ? 'select' : tool)
</script>

<template>
  <NumberSlider
    label="Turn"
    :model-value="sheet.place.rotation"
    v-bind="boundsOf(sheetSchema, 'place.rotation')"
    :step="0.1"
    :precision="2"
    unit="°"
    @change="turnTo"
    @done="done"
  />
  <div class="buttons">
    <v-btn size="small" variant="outlined" :prepend-icon="mdiRotateLeft" @click="turnOnce(-90)">90°</v-btn>
    <v-btn size="small" variant="outlined" :prepend-icon="mdiRotateRight" @click="turnOnce(90)">90°</v-btn>
    <v-btn size="small" variant="outlined" :active="stage.tool === 'straighten'" data-testid="straighten" @click="toggle('straighten')"
      >Straighten</v-btn
    >
    <v-btn
      size="small"
      variant="outlined"
      :prepend-icon="mdiCrop"
      :active="stage.tool === 'crop'"
      data-testid="crop"
      @click="toggle('crop')"
      >Crop</v-btn
    >
    <v-btn v-if="sheet.crop" size="small" variant="text" @click="editor.edit((journey) => cropSheet(journey, sheet.id, null))"
      >Reset the crop</v-btn
    >
  </div>
  <p v-if="stage.tool === 'straighten'" class="step" role="status">On the stage, drag along something that should be level or upright.</p>
  <p v-if="stage.tool === 'crop'" class="step" role="status">On the stage, drag a rectangle around what to keep.</p>
  <p v-if="sheet.crop" class="quiet figures">
    Cropped to {{ sheet.crop.right - sheet.crop.left }} × {{ sheet.crop.bottom - sheet.crop.top }} pixels.
  </p>
</template>

<style scoped>
.step {
  margin-top: 8px;
  padding-left: 10px;
  border-left: 4px solid var(--vermilion);
}
</style>
