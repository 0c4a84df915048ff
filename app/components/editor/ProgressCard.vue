<script setup lang="ts">
/** The progress of a long task, over the stage, with a button to cancel it. */
defineProps<{ words: string; share: number; label: string }>()
const emit = defineEmits<{ cancel: [] }>()
</script>

<template>
  <div class="card" role="status">
    <p>{{ words }}</p>
    <v-progress-linear color="accent" :model-value="share * 100" :indeterminate="share === 0" :aria-label="label" />
    <v-btn size="small" variant="outlined" @click="emit('cancel')">Cancel</v-btn>
  </div>
</template>
