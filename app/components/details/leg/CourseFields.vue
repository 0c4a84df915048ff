<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Point } from '#core/geometry/point'
import { legCubics, removeNodes, roundCorners, setNodeKind, setSmoothing, sharpCorners } from '#core/edits/lines/courses'
import { editLeg } from '#core/edits/lines/legs'
import { breakAt, breaksAt, joinBreaks } from '#core/edits/lines/breaks'
import type { DrawnCourse, Leg, NodeKind } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** Tools for a drawn course: its chosen nodes, smoothing, and rounding of sharp corners. */
const props = defineProps<{ leg: Leg; course: DrawnCourse }>()
const editor = useEditor()
const camera = useCamera()
const stage = useStage()
const { change, done } = useFieldEdits(() => `course ${props.leg.id}`)

const chosen = computed(() => [...stage.nodes].filter((i) => i < props.course.nodes.length))
const kind = computed(() => {
  const kinds = new Set(chosen.value.map((i) => props.course.nodes[i]!.kind))
  return kinds.size === 1 ? [...kinds][0]! : ('' as NodeKind)
})
const KINDS = [
  { value: 'corner', title: 'Corner' },
  { value: 'smooth', title: 'Smooth' },
  { value: 'symmetric', title: 'Symmetric' },
] as const
const one = computed(() => (chosen.value.length === 1 ? props.course.nodes[chosen.value[0]!] : undefined))
function moveOne(at: Point) {
  const i = chosen.value[0]!
  const nodes = props.course.nodes.map((node, k) => (k === i ? { ...node, at } : node))
  change('place', (journey) => editLeg(journey, props.leg.id, { course: { ...props.course, nodes } }))
}
function remove() {
  if (editor.edit((journey) => removeNodes(journey, props.leg.id, stage.nodes))) stage.nodes = new Set()
}

/** How wide a break is made, in widths of its ink: wide enough to see, and to be pulled wider. */
const GAP = 6
function breakLine() {
  const width = (GAP * props.leg.ink.width) / camera.view.zoom
  const node = chosen.value.length === 1 ? chosen.value[0]! : undefined
  if (!editor.edit((journey) => breakAt(journey, props.leg.id, stage.nodes, width))) return
  // Choose the next part of the line, so that it can be moved.
  stage.nodes = new Set(node === undefined ? [] : [node + 1])
}
const breaks = computed(() => breaksAt(props.course, stage.nodes))
const join = () => editor.edit((journey) => joinBreaks(journey, props.leg.id, stage.nodes))

/** How far the smoothed line may lie off the nodes, in pixels of the opening view. */
const smoothing = computed(() => Math.round((props.course.smoothing ?? 0) * editor.journey!.camera.zoom))
const smooth = (px: number) => change('smooth', (journey) => setSmoothing(journey, props.leg.id, px / journey.camera.zoom))

const sharp = computed(() => sharpCorners(legCubics(editor.journey!, props.leg.id)).length)
/** Radius for rounding corners, in reference pixels; at first large enough for the leg's vehicle to turn without spinning. */
const chosenRadius = ref<number>()
const radius = computed(() => chosenRadius.value ?? Math.round((props.leg.vehicle?.size ?? 80) * 0.5))
const round = () => editor.edit((journey) => roundCorners(journey, props.leg.id, radius.value / camera.view.zoom))
</script>

<template>
  <p class="quiet figures">
    {{ course.nodes.length }} nodes<template v-if="chosen.length > 0">, {{ chosen.length }} chosen</template>. Double-click the line for
    another, pull it to bend it.
  </p>
  <template v-if="chosen.length > 0">
    <ChoiceRow
      label="Node"
      :model-value="kind"
      :choices="KINDS"
      @change="(value) => editor.edit((j) => setNodeKind(j, leg.id, stage.nodes, value))"
    />
    <FieldRow v-if="one" label="Ground" role="group">
      <div class="pair">
        <NumberField label="x" :model-value="one.at.x" :precision="1" @change="(x) => moveOne({ ...one!.at, x })" @done="done" />
        <NumberField label="y" :model-value="one.at.y" :precision="1" @change="(y) => moveOne({ ...one!.at, y })" @done="done" />
      </div>
    </FieldRow>
    <div class="buttons">
      <v-btn size="small" variant="outlined" @click="remove">Delete {{ chosen.length === 1 ? 'node' : 'nodes' }}</v-btn>
      <v-btn v-if="breaks.length > 0" size="small" variant="outlined" data-testid="join-breaks" @click="join">Join the break</v-btn>
      <v-btn v-else size="small" variant="outlined" data-testid="break-line" @click="breakLine">
        {{ chosen.length === 1 ? 'Cut the line here' : 'Cut the line between the nodes' }}
      </v-btn>
    </div>
  </template>
  <NumberSlider label="Smooth" :model-value="smoothing" :min="0" :max="60" unit="px" @change="smooth" @done="done" />
  <NumberSlider
    v-if="sharp > 0"
    label="Radius"
    :model-value="radius"
    :min="4"
    :max="300"
    unit="px"
    @change="(value) => (chosenRadius = value)"
  />
  <p v-if="sharp > 0" class="flag" role="status">
    {{ sharp === 1 ? 'One corner is' : `${sharp} corners are` }} so sharp that a vehicle would spin.
    <button type="button" data-testid="round-corners" @click="round">Round {{ sharp === 1 ? 'it' : 'them' }}</button>
  </p>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.flag button {
  min-height: 24px;
  text-decoration: underline;
  color: var(--sea);
  cursor: pointer;
}
</style>
