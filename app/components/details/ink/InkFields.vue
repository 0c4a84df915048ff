<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { inkInStyle, isInStyle } from '#core/dress/apply-style'
import { INK_STYLES } from '#core/dress/ink-styles'
import { addInk, inkLegsLike, moveInk, removeInk } from '#core/edits/lines/legs'
import { USUAL_FADING_IN } from '#core/frame/ink-at'
import { boundsOf } from '#core/journey/bounds'
import { inksOf } from '#core/journey/lookup'
import type { Ink, Leg, Line } from '#core/journey/schema'
import { afterSchema, inkSchema, LIMITS, lineSchema } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import FieldList from '~/components/fields/FieldList.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import LastsField from '~/components/fields/LastsField.vue'
import LinePicture from '~/components/fields/LinePicture.vue'
import OwnStyles from '~/components/fields/OwnStyles.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import SortableList from '~/components/fields/SortableList.vue'
import { useInkPictures } from '~/composables/use-ink-pictures'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useOwnPicture } from '~/stores/own-picture'
import { useEditor } from '~/stores/editor'
import { AFTER_FIELDS, AFTER_NAMES, COMING_NAMES, HAND_NAMES, LINE_FIELDS, LINE_KINDS, STAMP_NAMES } from './ink-fields'
import InkGroup from './InkGroup.vue'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const { patch, set, done, eachSelected } = useLegEdits(() => props.leg)

/** Which of the leg's lines is worked on. */
const layer = ref(0)
const inks = computed(() => inksOf(props.leg))
watch(
  () => props.leg.id,
  () => (layer.value = 0),
)
watch(inks, ({ length }) => (layer.value = Math.min(layer.value, length - 1)))
const ink = computed(() => inks.value[layer.value] ?? props.leg.ink)
const setInk = (values: Partial<Ink>) => patch(`${layer.value} ${Object.keys(values).join()}`, { ink: values, layer: layer.value })
const setOnce = (values: Partial<Ink>) => set({ ink: values, layer: layer.value })

const lines = useTemplateRef<HTMLElement>('lines')
/** As they lie on one another. */
const stack = computed(() =>
  inks.value
    .map(({ line, width }, i) => ({ id: String(i), name: `${LINE_KINDS.find(({ value }) => value === line.kind)!.title}, ${width} px` }))
    .reverse(),
)
const layerAt = (place: number) => inks.value.length - 1 - place
function add() {
  layer.value = inks.value.length
  editor.edit((journey) => eachSelected(journey, (j, id) => addInk(j, id, NEXT_COLOUR)))
  // The list is at the top, and where it was added from may be gone.
  void nextTick(() => lines.value?.querySelector<HTMLElement>('[aria-current]')?.focus())
}
function remove() {
  const gone = layer.value
  editor.edit((journey) => eachSelected(journey, (j, id) => removeInk(j, id, gone)))
}
function move(from: number, to: number) {
  editor.edit((journey) => eachSelected(journey, (j, id) => moveInk(j, id, layerAt(from), layerAt(to))))
  layer.value = layerAt(to)
}

const STYLE_CHOICES = INK_STYLES.map(({ id, name }) => ({ value: id, title: name }))
const chosenStyle = computed(() => INK_STYLES.find((style) => isInStyle(ink.value, style))?.id ?? '')
const pictures = useInkPictures(
  () => INK_STYLES.map((style) => ({ id: style.id, ink: inkInStyle(style, ink.value) })),
  () => editor.journey!.ground.colour,
)
const chooseStyle = (id: string) =>
  setOnce(
    inkInStyle(
      INK_STYLES.find((style) => style.id === id)!,
      ink.value,
    ),
  )

/** A line of another kind keeps the space between its pieces. */
function chooseLine(kind: Line['kind']) {
  const { line } = ink.value
  if (kind === line.kind) return
  const space = 'space' in line && kind !== 'solid' && kind !== 'double' && kind !== 'hidden' ? { space: line.space } : {}
  setOnce({ line: lineSchema.parse({ kind, ...space }) })
}
const lineFields = computed(() => LINE_FIELDS[ink.value.line.kind] as readonly FieldSpec<Line>[])
const afterFields = computed(() => AFTER_FIELDS[ink.value.after.kind] as readonly FieldSpec<Ink['after']>[])
const own = useOwnPicture()
/** A mark of one's own needs a picture first; one that is there already is taken again. */
function chooseStamp(stamp: keyof typeof STAMP_NAMES) {
  const { line } = ink.value
  if (line.kind !== 'stamped') return
  if (stamp === 'own' && !line.picture) return chooseOwnStamp()
  setOnce({ line: { ...line, stamp } })
}
function chooseOwnStamp() {
  const { line } = ink.value
  if (line.kind === 'stamped') own.choose('stamp', (picture) => setOnce({ line: { ...line, stamp: 'own', picture } }))
}
const stamps = Object.entries(STAMP_NAMES).map(([value, title]) => ({ value, title }))

const CAPS = [
  { value: 'round', title: 'Round' },
  { value: 'butt', title: 'Flat' },
  { value: 'square', title: 'Square' },
] as const

const JOINS = [
  { value: 'round', title: 'Round' },
  { value: 'bevel', title: 'Bevel' },
  { value: 'mitre', title: 'Mitre' },
] as const

/** Further lines, and further colours of a gradient begin as this one. */
const NEXT_COLOUR = '#c9962b'
const MOST_COLOURS = 5
const setGradientColour = (i: number, colour: string) =>
  patch(`${layer.value} gradient ${i}`, {
    ink: { gradient: ink.value.gradient.map((known, k) => (k === i ? colour : known)) },
    layer: layer.value,
  })

const words = (...said: (string | false)[]) => said.filter(Boolean).join(', ') || 'none'
const notes = computed(() => {
  const {
    gradient,
    opacity,
    casing,
    shadow,
    glow,
    hand,
    taper,
    soft,
    feather,
    arrow,
    leader,
    particles,
    comes,
    wake,
    after,
    march,
    planned,
  } = ink.value
  return {
    edge: words(
      gradient.length > 0 && 'gradient',
      opacity < 1 && `${Math.round(opacity * 100)} %`,
      casing !== null && 'casing',
      shadow !== null && 'shadow',
      glow !== null && 'glow',
    ),
    hand: words(hand !== 'none' && hand, taper > 0 && 'tapers', soft > 0 && 'soft', feather > 0 && 'feathered'),
    head: words(arrow !== null && 'arrow', leader !== null && leader.shape, particles !== null && 'particles'),
    going: words(
      comes !== 'drawn' && comes.replaceAll('-', ' '),
      wake !== null && 'wake',
      after.kind !== 'stays' && after.kind.replace('-', ' '),
      march !== 0 && 'marches',
      planned !== null && 'planned',
    ),
  }
})

const WAKE = 400
</script>

<template>
  <div v-if="inks.length > 1" ref="lines">
    <SortableList
      label="Lines of this leg"
      :entries="stack"
      :chosen="String(layer)"
      testid="ink-layer"
      @choose="(id) => (layer = Number(id))"
      @move="move"
    />
    <div class="buttons">
      <v-btn v-if="inks.length <= LIMITS.inksOver" size="small" variant="outlined" data-testid="add-ink" @click="add">Add a line</v-btn>
      <v-btn size="small" variant="text" data-testid="remove-ink" @click="remove">Remove this line</v-btn>
    </div>
  </div>
  <PictureChoice
    v-slot="{ choice }"
    label="Ready-made looks"
    :model-value="chosenStyle"
    :choices="STYLE_CHOICES"
    :columns="4"
    @change="chooseStyle"
  >
    <img class="sample" :src="pictures[choice.value]" alt="" />
  </PictureChoice>
  <OwnStyles kind="ink" :look="ink" @apply="setOnce" />
  <ColourField label="Colour" :model-value="ink.colour" @change="(colour) => setInk({ colour })" @done="done" />
  <NumberSlider
    label="Width"
    :model-value="ink.width"
    v-bind="boundsOf(inkSchema, 'width')"
    :usual="[1, 40]"
    :step="0.5"
    :precision="1"
    unit="px"
    @change="(width) => setInk({ width })"
    @done="done"
  />
  <PictureChoice
    v-slot="{ choice }"
    label="Line"
    :model-value="ink.line.kind"
    :choices="LINE_KINDS"
    :columns="4"
    class="lines"
    @change="chooseLine"
  >
    <LinePicture :kind="choice.value" />
  </PictureChoice>
  <FieldRow v-if="ink.line.kind === 'stamped'" v-slot="{ id }" label="Mark">
    <v-select
      :aria-labelledby="id"
      :items="stamps"
      :model-value="ink.line.stamp"
      data-testid="stamp"
      @update:model-value="(stamp) => chooseStamp(stamp as keyof typeof STAMP_NAMES)"
    />
  </FieldRow>
  <div v-if="ink.line.kind === 'stamped' && ink.line.stamp === 'own'" class="buttons">
    <v-btn size="small" variant="outlined" @click="chooseOwnStamp">Another picture …</v-btn>
  </div>
  <p v-if="own.failure && !own.original && ink.line.kind === 'stamped'" class="error" role="alert">{{ own.failure }}</p>
  <FieldList
    :model-value="ink.line"
    :fields="lineFields"
    @change="(values) => setInk({ line: { ...ink.line, ...values } as Line })"
    @done="done"
  />
  <FoldedSection title="Gradient, casing, shadow, glow" :note="notes.edge">
    <ChoiceRow
      v-if="ink.line.kind === 'solid' || ink.line.kind === 'dashed'"
      label="Ends"
      :model-value="ink.cap"
      :choices="CAPS"
      @change="(cap) => setOnce({ cap })"
    />
    <ChoiceRow label="Corners" :model-value="ink.join" :choices="JOINS" @change="(join) => setOnce({ join })" />
    <NumberSlider
      v-if="ink.join === 'mitre'"
      label="Mitre limit"
      :model-value="ink.mitreLimit"
      v-bind="boundsOf(inkSchema, 'mitreLimit')"
      :usual="[1, 10]"
      :step="0.5"
      :precision="1"
      @change="(mitreLimit) => setInk({ mitreLimit })"
      @done="done"
    />
    <PercentSlider
      label="Opacity"
      :model-value="ink.opacity"
      v-bind="boundsOf(inkSchema, 'opacity')"
      @change="(opacity) => setInk({ opacity })"
      @done="done"
    />
    <template v-for="(colour, i) in ink.gradient" :key="i">
      <ColourField :label="`Colour ${i + 2}`" :model-value="colour" @change="(next) => setGradientColour(i, next)" @done="done" />
    </template>
    <div class="buttons">
      <v-btn
        v-if="ink.gradient.length < MOST_COLOURS"
        size="small"
        variant="outlined"
        @click="setOnce({ gradient: [...ink.gradient, NEXT_COLOUR] })"
        >{{ ink.gradient.length === 0 ? 'Add a gradient' : 'Add a colour' }}</v-btn
      >
      <v-btn v-if="ink.gradient.length > 0" size="small" variant="text" @click="setOnce({ gradient: ink.gradient.slice(0, -1) })"
        >Remove the last colour</v-btn
      >
    </div>
    <InkGroup :leg="leg" :layer="layer" part="casing" label="Casing" />
    <InkGroup :leg="leg" :layer="layer" part="shadow" label="Shadow" />
    <InkGroup :leg="leg" :layer="layer" part="glow" label="Glow" />
  </FoldedSection>
  <FoldedSection title="By hand, soft edges" :note="notes.hand">
    <ChoiceRow label="By hand" :model-value="ink.hand" :choices="HAND_NAMES" @change="(hand) => setOnce({ hand })" />
    <NumberSlider
      label="Taper"
      :model-value="ink.taper"
      v-bind="boundsOf(inkSchema, 'taper')"
      :usual="[0, 1200]"
      :step="10"
      unit="px"
      @change="(taper) => setInk({ taper })"
      @done="done"
    />
    <NumberSlider
      label="Soft edges"
      :model-value="ink.soft"
      v-bind="boundsOf(inkSchema, 'soft')"
      :usual="[0, 30]"
      :step="0.5"
      :precision="1"
      unit="px"
      data-testid="ink-soft"
      @change="(soft) => setInk({ soft })"
      @done="done"
    />
    <NumberSlider
      label="Fades to head"
      :model-value="ink.feather"
      v-bind="boundsOf(inkSchema, 'feather')"
      :usual="[0, 1200]"
      :step="10"
      unit="px"
      data-testid="ink-feather"
      @change="(feather) => setInk({ feather })"
      @done="done"
    />
  </FoldedSection>
  <FoldedSection title="Arrow, leader, particles" :note="notes.head">
    <InkGroup :leg="leg" :layer="layer" part="arrow" label="Arrow" />
    <InkGroup :leg="leg" :layer="layer" part="leader" label="Leader" />
    <InkGroup :leg="leg" :layer="layer" part="particles" label="Sparks and dust" />
  </FoldedSection>
  <FoldedSection title="Entrance and exit" :note="notes.going">
    <FieldRow v-slot="{ id }" label="Comes">
      <v-select :aria-labelledby="id" :items="COMING_NAMES" :model-value="ink.comes" @update:model-value="(comes) => setOnce({ comes })" />
    </FieldRow>
    <LastsField
      v-if="ink.comes === 'faded'"
      label="Takes"
      :model-value="ink.comesIn"
      :usual="USUAL_FADING_IN"
      @change="(comesIn) => setInk({ comesIn })"
      @done="done"
    />
    <FieldRow v-slot="{ id }" label="Afterwards">
      <v-select
        :aria-labelledby="id"
        :items="AFTER_NAMES"
        :model-value="ink.after.kind"
        @update:model-value="(kind) => setOnce({ after: afterSchema.parse({ kind }) })"
      />
    </FieldRow>
    <FieldList
      :model-value="ink.after"
      :fields="afterFields"
      @change="(values) => setInk({ after: { ...ink.after, ...values } as Ink['after'] })"
      @done="done"
    />
    <v-switch label="Keep only a wake" :model-value="ink.wake !== null" @update:model-value="(on) => setOnce({ wake: on ? WAKE : null })" />
    <NumberSlider
      v-if="ink.wake !== null"
      label="Wake"
      :model-value="ink.wake"
      v-bind="boundsOf(inkSchema, 'wake')"
      :usual="[20, 2000]"
      :step="10"
      unit="px"
      @change="(wake) => setInk({ wake })"
      @done="done"
    />
    <NumberSlider
      label="Marching"
      :model-value="ink.march"
      v-bind="boundsOf(inkSchema, 'march')"
      :usual="[-200, 200]"
      :step="5"
      unit="px/s"
      @change="(march) => setInk({ march })"
      @done="done"
    />
    <InkGroup :leg="leg" :layer="layer" part="planned" label="Show the planned line ahead" />
    <PictureChoice
      v-if="ink.planned"
      v-slot="{ choice }"
      label="Planned line"
      :model-value="ink.planned.line.kind"
      :choices="LINE_KINDS.filter(({ value }) => value !== 'hidden')"
      :columns="4"
      class="lines"
      @change="(kind) => setOnce({ planned: { ...ink.planned!, line: lineSchema.parse({ kind }) } })"
    >
      <LinePicture :kind="choice.value" />
    </PictureChoice>
  </FoldedSection>
  <div class="buttons">
    <v-btn size="small" variant="outlined" @click="editor.edit((journey) => inkLegsLike(journey, leg.id))">Use this ink for all legs</v-btn>
    <v-btn v-if="inks.length === 1" size="small" variant="text" data-testid="add-ink" @click="add">Add a line over it</v-btn>
  </div>
</template>

<style scoped>
.error {
  color: var(--vermilion);
}
.sample {
  width: 100%;
  height: 100%;
  object-fit: cover;
  border-radius: 3px;
}
.lines :deep(button) {
  height: 34px;
}
.lines :deep(svg) {
  height: 24px;
}
</style>
