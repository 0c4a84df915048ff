<script setup lang="ts">
import type { Line } from '#core/journey/schema'

/** A line of each kind, as a small picture. */
defineProps<{ kind: Line['kind'] }>()
</script>

<template>
  <svg viewBox="0 0 46 24" width="46" height="24" aria-hidden="true" fill="none" stroke="currentColor" stroke-width="4">
    <path v-if="kind === 'solid'" d="M3 12H43" stroke-linecap="round" />
    <path v-else-if="kind === 'dashed'" d="M3 12H43" stroke-dasharray="9 6.5" />
    <path v-else-if="kind === 'dotted'" d="M5 12H43" stroke-dasharray="0.1 9" stroke-linecap="round" stroke-width="5" />
    <path v-else-if="kind === 'double'" d="M3 8.5H43M3 15.5H43" stroke-width="2.6" />
    <path v-else-if="kind === 'railway'" d="M3 9.5H43M3 14.5H43M7 5V19M15 5V19M23 5V19M31 5V19M39 5V19" stroke-width="1.8" />
    <path v-else-if="kind === 'stamped'" d="M6 6L12 12L6 18M20 6L26 12L20 18M34 6L40 12L34 18" stroke-width="3" />
    <path v-else d="M3 12H43" stroke-width="1.5" stroke-dasharray="1.5 4" opacity="0.7" />
  </svg>
</template>
