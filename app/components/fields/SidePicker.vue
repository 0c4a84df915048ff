<script setup lang="ts">
import type { Side } from '#core/journey/schema'
import PositionGrid from '~/components/fields/PositionGrid.vue'

/** Chooses on which of the eight sides of its pin something lies; none is chosen where it lies elsewhere. */
defineProps<{ modelValue: Side | null }>()
const emit = defineEmits<{ change: [side: Side] }>()

const PLACES: readonly (Side | null)[] = ['top-left', 'top', 'top-right', 'left', null, 'right', 'bottom-left', 'bottom', 'bottom-right']
</script>

<template>
  <PositionGrid :model-value="modelValue" :places="PLACES" @change="(side) => emit('change', side)" />
</template>
