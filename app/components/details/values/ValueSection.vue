<script setup lang="ts">
import { nanoid } from 'nanoid'
import { computed } from 'vue'
import { addValueMark } from '#core/edits/pace/values'
import { findLeg, inksOf, markedOf, nameOfValueMark, VALUE_NAMES } from '#core/journey/lookup'
import type { ChangingValue } from '#core/journey/schema'
import { valueMarkSchema } from '#core/journey/schema'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { isOf, VALUE_CHOICES } from './value-fields'

/** How values of a leg and its traveller, of a stop or a mark beside the way, or of a sheet, change over time: a list, and a way to have another one change from the play position on. */
const props = defineProps<{ leg?: string; traveller?: string; stop?: string; sheet?: string }>()
const editor = useEditor()
const camera = useCamera()
const playback = usePlayback()

const marks = computed(() => editor.compiled!.valueMarks.filter(({ mark }) => isOf(mark, props)).sort((a, b) => a.time - b.time))

/** What there is to change: no light without a glow, nothing of what is not there. */
const choices = computed(() => {
  const found = props.leg === undefined ? undefined : findLeg(editor.journey!, props.leg)
  const marked = markedOf(editor.journey!).find(({ id }) => id === props.stop)
  const sheet = editor.journey!.sheets.find(({ id }) => id === props.sheet)
  const has: Partial<Record<ChangingValue, boolean>> = {
    'line-light': found !== undefined && inksOf(found.leg).some(({ glow }) => glow),
    'pin-size': marked !== undefined && marked.pin.shape !== 'none',
    'name-size': marked?.label.shown === true,
    wash: Boolean(sheet?.wash),
    'edge-shade': Boolean(sheet?.wash?.edgeShade) && editor.journey!.sheets[0] === sheet,
  }
  return (Object.keys(VALUE_CHOICES) as ChangingValue[]).filter((value) => {
    const { owner } = VALUE_CHOICES[value]
    return (owner === null ? props.sheet !== undefined : props[owner] !== undefined) && has[value] !== false
  })
})

/** The first mark of a value changes it; the next one brings it back. */
function add(value: ChangingValue) {
  const { owner, initial, to } = VALUE_CHOICES[value]
  const before = marks.value.findLast(({ mark, time }) => mark.value === value && time <= playback.time)?.mark
  const set = initial ?? findLeg(editor.journey!, props.leg!)!.leg.ink.colour
  const mark = valueMarkSchema.parse({
    value,
    id: nanoid(10),
    ...(owner ? { [owner]: props[owner] } : {}),
    at: camera.momentOf(playback.time),
    to: before && before.to !== set ? set : to,
  })
  if (editor.edit((journey) => addValueMark(journey, mark))) editor.select({ kind: 'value', id: mark.id })
}
</script>

<template>
  <FoldedSection title="Changes over time" :note="marks.length > 0 ? String(marks.length) : 'none'">
    <ul v-if="marks.length > 0" class="marks">
      <li v-for="{ mark, time } in marks" :key="mark.id">
        <button type="button" data-testid="value-mark" @click="editor.select({ kind: 'value', id: mark.id })">
          <span>{{ nameOfValueMark(mark) }}</span>
          <span class="quiet figures">{{ time.toFixed(2) }} s</span>
        </button>
      </li>
    </ul>
    <div class="buttons">
      <v-menu>
        <template #activator="{ props: menu }">
          <v-btn v-bind="menu" size="small" variant="outlined" data-testid="add-value">Change from here on …</v-btn>
        </template>
        <v-list density="compact">
          <v-list-item v-for="value in choices" :key="value" :title="VALUE_NAMES[value]" @click="add(value)" />
        </v-list>
      </v-menu>
    </div>
  </FoldedSection>
</template>

<style scoped>
.marks {
  list-style: none;
  padding: 0;
}
.marks button {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  width: 100%;
  min-height: 30px;
  padding: 2px 8px;
  text-align: left;
  border-radius: 3px;
  cursor: pointer;
}
.marks button:hover {
  background: color-mix(in srgb, var(--sea) 12%, transparent);
}
</style>
