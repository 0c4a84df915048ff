<script setup lang="ts">
import { computed } from 'vue'
import { NO_GRADE, setGrade } from '#core/edits/journey'
import { boundsOf } from '#core/journey/bounds'
import type { Grade } from '#core/journey/schema'
import { gradeSchema } from '#core/journey/schema'
import FieldList from '~/components/fields/FieldList.vue'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useUpload } from '~/composables/use-upload'
import { uploadLut } from '~/services/api'
import { chooseFiles } from '~/services/choose-files'
import { useEditor } from '~/stores/editor'

/** What is done to the colours of the whole picture. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'grade')
const grade = computed(() => editor.journey!.grade ?? NO_GRADE)
const INITIAL = gradeSchema.parse({ vignette: {}, grain: {} })

const FIELDS: readonly FieldSpec<Grade>[] = [
  { key: 'exposure', label: 'Exposure', as: 'number', ...boundsOf(gradeSchema, 'exposure'), step: 0.05, precision: 2, unit: 'stops' },
  { key: 'contrast', label: 'Contrast', as: 'percent', min: -1 },
  { key: 'warmth', label: 'Warmth', as: 'percent', min: -1 },
  { key: 'saturation', label: 'Saturation', as: 'percent', min: -1 },
]
const VIGNETTE_FIELDS: readonly FieldSpec<NonNullable<Grade['vignette']>>[] = [
  { key: 'strength', label: 'Strength', as: 'percent' },
  { key: 'size', label: 'Size', as: 'percent' },
]
const GRAIN_FIELDS: readonly FieldSpec<NonNullable<Grade['grain']>>[] = [
  { key: 'strength', label: 'Strength', as: 'percent' },
  { key: 'size', label: 'Grain size', as: 'number', min: 1, max: 8, step: 0.5, precision: 1, unit: 'px' },
]

const set = (patch: Partial<Grade>, field = Object.keys(patch).join()) => change(field, (journey) => setGrade(journey, patch))
const toggle = (patch: Partial<Grade>) => editor.edit((journey) => setGrade(journey, patch))

const { failure, isAdding, add } = useUpload(uploadLut, (added) => void toggle({ lut: { ...added, strength: 1 } }))
</script>

<template>
  <FieldList :model-value="grade" :fields="FIELDS" @change="set" @done="done" />
  <div class="buttons">
    <v-btn
      size="small"
      variant="outlined"
      :loading="isAdding"
      data-testid="add-lut"
      @click="chooseFiles(['.cube'], false, ([file]) => add(file!))"
    >
      {{ grade.lut ? 'Another LUT …' : 'Add a LUT (.cube) …' }}
    </v-btn>
    <v-btn v-if="grade.lut" size="small" variant="text" data-testid="remove-lut" @click="toggle({ lut: null })">Remove</v-btn>
  </div>
  <p v-if="failure" class="error" role="alert">{{ failure }}</p>
  <PercentSlider
    v-if="grade.lut"
    :label="grade.lut.name"
    :model-value="grade.lut.strength"
    @change="(strength) => set({ lut: { ...grade.lut!, strength } })"
    @done="done"
  />
  <OptionalGroup
    label="Vignette"
    :model-value="grade.vignette"
    :initial="INITIAL.vignette!"
    :fields="VIGNETTE_FIELDS"
    @toggle="(vignette) => toggle({ vignette })"
    @change="(vignette, fields) => set({ vignette }, `vignette ${fields}`)"
    @done="done"
  />
  <OptionalGroup
    label="Film grain"
    :model-value="grade.grain"
    :initial="INITIAL.grain!"
    :fields="GRAIN_FIELDS"
    @toggle="(grain) => toggle({ grain })"
    @change="(grain, fields) => set({ grain }, `grain ${fields}`)"
    @done="done"
  />
  <div v-if="editor.journey!.grade" class="buttons">
    <v-btn size="small" variant="text" data-testid="reset-grade" @click="toggle(NO_GRADE)">Reset</v-btn>
  </div>
</template>
