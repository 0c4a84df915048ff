<script setup lang="ts">
import { computed } from 'vue'
import type { MapStyle } from '#core/journey/schema'
import { MAP_STYLES } from '#core/journey/schema'
import { STYLE_SHEETS } from '#core/maps/map-styles'
import { SMALL_MAPS } from '#core/maps/small-maps'
import { imageryOf } from '#core/sheet/imagery'
import pictures from '~/assets/map-styles.webp'
import PictureChoice from '~/components/fields/PictureChoice.vue'

/** The styles of generated maps, each as a small picture. */
const props = withDefaults(
  defineProps<{
    modelValue: MapStyle
    /** Whether all are in one row, and not in two. */
    inOneRow?: boolean
    /** Whether those of satellite imagery are offered, which has a pixel every ten kilometres. */
    hasImagery?: boolean
  }>(),
  { inOneRow: false, hasImagery: true },
)
const emit = defineEmits<{ change: [style: MapStyle] }>()

const styles = computed(() =>
  MAP_STYLES.filter((style) => props.hasImagery || !imageryOf(style)).map((value) => ({ value, title: STYLE_SHEETS[value].title })),
)
/** All styles are in one picture, one below the other. */
const pictureTop = (style: MapStyle) => `${(-MAP_STYLES.indexOf(style) * SMALL_MAPS.height) / 2}px`
</script>

<template>
  <PictureChoice
    v-slot="{ choice }"
    label="Style"
    :model-value="modelValue"
    :choices="styles"
    :columns="inOneRow ? styles.length : 5"
    @change="(style: MapStyle) => emit('change', style)"
  >
    <span class="swatch" :style="{ backgroundImage: `url(${pictures})`, backgroundPositionY: pictureTop(choice.value) }" />
    <span class="style">{{ choice.title }}</span>
  </PictureChoice>
</template>

<style scoped>
.swatch {
  width: 56px;
  height: 32px;
  background-size: 56px;
  border-radius: 2px;
}
.style {
  font-size: 11px;
  line-height: 1.1;
}
</style>
