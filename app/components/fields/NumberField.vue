<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'

/** A number that is typed in, or stepped with the arrow keys. It counts when it is whole: on Enter, on leaving the field, at each step. */
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

const written = () => String(Number(props.modelValue.toFixed(props.precision)))
const draft = ref(written())
watch(
  () => props.modelValue,
  () => (draft.value = written()),
)

async function commit() {
  const value = Number(String(draft.value).replace(',', '.'))
  if (String(draft.value).trim() !== '' && Number.isFinite(value)) {
    const held = Math.min(props.max, Math.max(props.min, Number(value.toFixed(props.precision))))
    if (held !== Number(written())) emit('change', held)
  }
  // Whatever came of it, the field shows what holds now.
  await nextTick()
  draft.value = written()
}

function stepBy(event: KeyboardEvent, direction: number) {
  event.preventDefault()
  const next = props.modelValue + direction * props.step * (event.shiftKey ? 10 : 1)
  draft.value = String(next)
  void commit()
}

function leave() {
  void commit()
  emit('done')
}
</script>

<template>
  <v-text-field
    v-model="draft"
    class="number figures"
    inputmode="decimal"
    autocomplete="off"
    :label="label"
    :aria-labelledby="labelledby"
    :suffix="unit"
    @keydown.enter="commit"
    @keydown.up="stepBy($event, 1)"
    @keydown.down="stepBy($event, -1)"
    @focus="($event.target as HTMLInputElement).select()"
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
