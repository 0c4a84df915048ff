<script setup lang="ts">
import equal from 'fast-deep-equal'
import { computed } from 'vue'
import { TEXT_LOOKS } from '#core/dress/text-styles'
import { lettersIn } from '#core/dress/legible'
import type { LookOf } from '#core/dress/own-styles'
import { boundsOf } from '#core/journey/bounds'
import type { TextStyle } from '#core/journey/schema'
import { textStyleSchema } from '#core/journey/schema'
import { addFont } from '#core/edits/marks/fonts'
import type { FamilyName } from '#core/type/families'
import { ownFamily, weightOf } from '#core/type/families'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import OwnStyles from '~/components/fields/OwnStyles.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import { useTextPictures } from '~/composables/use-text-pictures'
import { useUpload } from '~/composables/use-upload'
import { uploadFont } from '~/services/api'
import { chooseFiles } from '~/services/choose-files'
import { useEditor } from '~/stores/editor'
import { CASES, FAMILY_CHOICES, HALO_FIELDS, inFamily, noteOf, PLATE_FIELDS, weightChoices } from './text-fields'

/**
 * How letters are set: ready-made looks on top, then typeface, size and colour, the rest folded. Emits the values that change, with a name for the
 * gesture, and `done` at its end.
 */
const props = defineProps<{ modelValue: TextStyle; sample: string; largest: number }>()
const emit = defineEmits<{ change: [values: Partial<TextStyle>, field: string]; done: [] }>()

const editor = useEditor()
const ground = computed(() => (editor.journey!.sheets.length > 0 ? MAP_COLOUR : editor.journey!.ground.colour))
const pictures = useTextPictures(TEXT_LOOKS, () => props.sample.split(/\s/)[0]!.slice(0, 13) || 'Name', () => ground.value) // prettier-ignore

const unsized = ({ size: _, ...rest }: TextStyle) => rest
const look = computed(() => TEXT_LOOKS.find(({ style }) => equal(unsized(style), unsized(props.modelValue)))?.id ?? null)
const weights = computed(() => weightChoices(props.modelValue.family))
const weight = computed(() => String(weightOf(props.modelValue.family, props.modelValue.weight)))

/** The typefaces that ship, and the journey's own fonts. */
const families = computed<{ value: FamilyName; title: string }[]>(() => [
  ...FAMILY_CHOICES,
  ...editor.journey!.fonts.map(({ file, name }) => ({ value: ownFamily(file), title: name })),
])
const { failure, isAdding, add } = useUpload(uploadFont, (font) => {
  if (!editor.edit((journey) => addFont(journey, font), 'add a font')) return
  emit('change', inFamily(props.modelValue, ownFamily(font.file)), 'font of one’s own')
  emit('done')
})

/** The font of one's own that the letters are set in. */
const ownFont = computed(() => editor.journey!.fonts.find(({ file }) => ownFamily(file) === props.modelValue.family))

/** Puts on a kept style, in the size that there is; its font comes into the journey with it. */
function putOn({ size: _size, font, ...look }: LookOf<'text'>) {
  if (!font || editor.edit((journey) => addFont(journey, font), 'add a font')) set(look)
}

function set(values: Partial<TextStyle>) {
  emit('done')
  emit('change', values, 'once')
  emit('done')
}
</script>

<script lang="ts">
/** The kinds of font file that can be added. */
const FONT_FILES = ['.ttf', '.otf', '.woff', '.woff2']
/** The ground of pictures where there is a map: between the sea and the land of a drawn one. */
const MAP_COLOUR = '#8fb0ac'
</script>

<template>
  <PictureChoice
    v-slot="{ choice }"
    label="Ready-made letters"
    :model-value="look"
    :choices="TEXT_LOOKS.map(({ id, name }) => ({ value: id as string | null, title: name }))"
    :columns="3"
    @change="(id) => set(unsized(TEXT_LOOKS.find((entry) => entry.id === id)!.style))"
  >
    <img v-if="pictures[choice.value!]" :src="pictures[choice.value!]" alt="" />
  </PictureChoice>
  <OwnStyles kind="text" :look="{ ...modelValue, font: ownFont }" @apply="putOn" />
  <FieldRow v-slot="{ id }" label="Typeface">
    <v-select
      :aria-labelledby="id"
      :items="families"
      :model-value="modelValue.family"
      data-testid="typeface"
      @update:model-value="(family) => set(inFamily(modelValue, family))"
    />
  </FieldRow>
  <div class="buttons">
    <v-btn
      size="small"
      variant="outlined"
      :loading="isAdding"
      data-testid="add-font"
      @click="chooseFiles(FONT_FILES, false, ([file]) => add(file!))"
    >
      Add a font file …
    </v-btn>
  </div>
  <p v-if="failure" class="error" role="alert">{{ failure }}</p>
  <ChoiceRow
    v-if="weights.length > 1"
    label="Weight"
    :model-value="weight"
    :choices="weights"
    @change="(value) => set({ weight: Number(value) })"
  />
  <NumberSlider
    label="Size"
    :model-value="modelValue.size"
    v-bind="boundsOf(textStyleSchema, 'size')"
    :usual="[16, largest]"
    unit="px"
    @change="(size) => emit('change', { size }, 'letter size')"
    @done="emit('done')"
  />
  <ColourField
    label="Letters"
    :model-value="modelValue.colour"
    @change="(colour) => emit('change', lettersIn(colour, modelValue), 'letters')"
    @done="emit('done')"
  />
  <FoldedSection title="Halo, plate, spacing" :note="noteOf(modelValue)">
    <OptionalGroup
      label="Halo around the letters"
      :model-value="modelValue.halo"
      :initial="{ colour: '#fbf6ea', width: 0.1 }"
      :fields="HALO_FIELDS"
      @change="(halo, field) => emit('change', { halo }, `halo ${field}`)"
      @toggle="(halo) => set({ halo })"
      @done="emit('done')"
    />
    <OptionalGroup
      label="Plate behind the letters"
      :model-value="modelValue.plate"
      :initial="{ shape: 'rounded', colour: '#fbf6ea', opacity: 0.92 }"
      :fields="PLATE_FIELDS"
      @change="(plate, field) => emit('change', { plate }, `plate ${field}`)"
      @toggle="(plate) => set({ plate })"
      @done="emit('done')"
    />
    <ChoiceRow label="Case" :model-value="modelValue.case" :choices="CASES" @change="(value) => set({ case: value })" />
    <NumberSlider
      label="Spacing"
      :model-value="Math.round(modelValue.spacing * 100)"
      v-bind="boundsOf(textStyleSchema, 'spacing', 100)"
      :usual="[-10, 60]"
      unit="%"
      @change="(value) => emit('change', { spacing: value / 100 }, 'spacing')"
      @done="emit('done')"
    />
    <PercentSlider
      label="Shadow"
      :model-value="modelValue.shadow"
      @change="(shadow) => emit('change', { shadow }, 'shadow')"
      @done="emit('done')"
    />
  </FoldedSection>
</template>

<style scoped>
.error {
  color: var(--vermilion);
}
img {
  width: 100%;
  height: 100%;
  object-fit: cover;
  border-radius: 3px;
}
</style>
