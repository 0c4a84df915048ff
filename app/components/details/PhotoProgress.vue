<script setup lang="ts">
import { computed } from 'vue'
import { usePhotos } from '~/stores/photos'

/** How far the photos for a stop's postcard, or those that become stops, have come in, and what became of them. */
const props = defineProps<{ stop?: string }>()
const photos = usePhotos()
const isMeant = computed(() => photos.about === props.stop)
</script>

<template>
  <p v-if="isMeant && photos.words" class="quiet figures" role="status" data-testid="photo-progress">
    {{ photos.words }}
    <button type="button" @click="photos.cancel">Cancel</button>
  </p>
  <p v-else-if="isMeant && photos.outcome" class="quiet" role="status">{{ photos.outcome }}</p>
</template>

<style scoped>
button {
  margin-left: 8px;
  min-height: 24px;
  text-decoration: underline;
  color: var(--sea);
  cursor: pointer;
}
</style>
