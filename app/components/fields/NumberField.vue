<script setup lang="ts">
import { clamp } from '#core/geometry/clamp'
import { watchThrottled } from '@vueuse/core'
import { nextTick, ref } from 'vue'
import { DEFAULT_FRAME } from '#core/journey/create'
import { typedSeconds } from '#core/pace/timecode'
import { useEditor } from '~/stores/editor'
import { READABLE_PACE } from './readable-pace'

/** A number, typed or stepped with the arrow keys. It is committed on Enter, on leaving the field, and at each step. */
const props = withDefaults(
  defineProps<{
    modelValue: number
    label?: string
    labelledby?: string
    min?: number
    max?: number
    step?: number
    unit?: string
    precision?: number
  }>(),
  { label: undefined, labelledby: undefined, min: -Infinity, max: Infinity, step: 1, unit: undefined, precision: 0 },
)
const emit = defineEmits<{ change: [value: number]; done: [] }>()
const editor = useEditor()

const written = () => String(Number(props.modelValue.toFixed(props.precision)))
const draft = ref(written())
/** Why the input is not accepted; the field keeps it until it is left. */
const problem = ref('')
watchThrottled(
  () => props.modelValue,
  () => {
    draft.value = written()
    problem.value = ''
  },
  { throttle: READABLE_PACE },
)

/** Parses a number, also with a decimal comma, to the precision of the field; a time also in the other ways that `typedSeconds` knows. NaN for anything else. */
function read(text: string): number {
  const rounded = (value: number) => Number(value.toFixed(props.precision))
  if (props.unit === 's') {
    const { seconds, isExact } = typedSeconds(text, { now: props.modelValue, rate: editor.journey?.frame.rate ?? DEFAULT_FRAME.rate })
    return isExact ? seconds : rounded(seconds)
  }
  const trimmed = text.trim().replace(',', '.')
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(trimmed) ? rounded(Number(trimmed)) : NaN
}

const withUnit = (value: number) => `${value}${props.unit ? ` ${props.unit}` : ''}`
function fault(value: number): string {
  if (!Number.isFinite(value))
    return props.unit === 's' ? 'Type seconds, like 2.5, frames, like 12f, or a change, like +12f' : 'Type a number, like 2.5'
  if (value < props.min) return `At least ${withUnit(props.min)}`
  return value > props.max ? `At most ${withUnit(props.max)}` : ''
}

async function commit() {
  const text = String(draft.value)
  const value = text.trim() === written() ? props.modelValue : read(text)
  problem.value = fault(value)
  if (problem.value !== '') return
  if (value !== props.modelValue) emit('change', value)
  // Whether accepted or not, the field then shows the present value.
  await nextTick()
  draft.value = written()
}

function stepBy(event: KeyboardEvent, direction: number) {
  event.preventDefault()
  const next = props.modelValue + direction * props.step * (event.shiftKey ? 10 : 1)
  draft.value = String(clamp(next, props.min, props.max))
  void commit()
}

async function leave() {
  await commit()
  // Restore the last valid value; keep the message until the field is used again.
  draft.value = written()
  emit('done')
}
function enter(event: FocusEvent) {
  problem.value = ''
  ;(event.target as HTMLInputElement).select()
}
function escape(event: KeyboardEvent) {
  draft.value = written()
  ;(event.target as HTMLInputElement).blur()
}
</script>

<template>
  <v-text-field
    v-model="draft"
    class="number figures"
    :inputmode="unit === 's' ? 'text' : 'decimal'"
    autocomplete="off"
    :label="label"
    :aria-labelledby="labelledby"
    :suffix="unit"
    :error-messages="problem"
    hide-details="auto"
    @keydown.enter="commit"
    @keydown.esc.stop="escape"
    @keydown.up="stepBy($event, 1)"
    @keydown.down="stepBy($event, -1)"
    @focus="enter"
    @blur="leave"
  />
</template>

<style scoped>
.number :deep(input) {
  text-align: right;
  padding-inline: 8px 4px;
}
.number :deep(.v-text-field__suffix) {
  padding-inline: 0 8px;
  font-size: 12px;
}
</style>
