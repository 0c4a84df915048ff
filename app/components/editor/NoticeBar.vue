<script setup lang="ts">
import { computed } from 'vue'

/** A message over the editor: errors until they are closed, results for a while. */
const props = withDefaults(defineProps<{ text: string; isProblem?: boolean }>(), { isProblem: true })
const emit = defineEmits<{ close: [] }>()
/** How long results are shown, in milliseconds. */
const WHILE = 8000
const shown = computed({ get: () => props.text !== '', set: (open) => !open && emit('close') })
</script>

<template>
  <v-snackbar
    v-model="shown"
    :color="isProblem ? 'error' : 'primary'"
    location="top"
    :timeout="isProblem ? -1 : WHILE"
    :role="isProblem ? 'alert' : 'status'"
  >
    {{ text }}
    <template #actions>
      <slot />
      <v-btn variant="text" @click="emit('close')">Close</v-btn>
    </template>
  </v-snackbar>
</template>
