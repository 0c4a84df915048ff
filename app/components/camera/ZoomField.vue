<script setup lang="ts">
import { computed } from 'vue'
import { fillingView } from '#core/sheet/framing'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** A zoom, in reference pixels to the ground unit, told in percent: at 100 % the first sheet just fills the frame; without a sheet a ground unit is a reference pixel. */
const props = defineProps<{ modelValue: number }>()
const emit = defineEmits<{ change: [zoom: number]; done: [] }>()
const editor = useEditor()
const stage = useStage()

const whole = computed(() => {
  const sheet = editor.journey!.sheets[0]
  return sheet ? fillingView(sheet, stage.reference).zoom : 1
})
const percent = computed(() => Math.round((props.modelValue / whole.value) * 1000) / 10)
</script>

<template>
  <NumberSlider
    label="Zoom"
    :model-value="percent"
    :min="10"
    :max="1000"
    :step="1"
    :precision="1"
    unit="%"
    @change="(value) => emit('change', (whole * value) / 100)"
    @done="emit('done')"
  />
</template>
