<script setup lang="ts">
import { mdiMagnify } from '@mdi/js'
import { refDebounced } from '@vueuse/core'
import { ref, useTemplateRef, watch } from 'vue'
import { formatCoordinates, readCoordinates } from '#core/formats/coordinates'
import type { LonLat } from '#core/geo/lon-lat'
import type { Place } from '~/services/api'
import { ApiError, searchPlaces } from '~/services/api'

/** Finds a place by its name, or by typed coordinates. Emits the chosen place; its `name` is empty for coordinates. */
const props = defineProps<{ label: string; near: LonLat | undefined }>()
const emit = defineEmits<{ choose: [place: LonLat & { name: string }] }>()

interface Choice extends LonLat {
  name: string
  title: string
  subtitle: string
}

const typed = ref('')
const asked = refDebounced(typed, 80)
const choices = ref<Choice[]>([])
const problem = ref('')
const field = useTemplateRef<{ focus: () => void }>('field')
let control: AbortController | undefined

watch(asked, async (text) => {
  control?.abort()
  problem.value = ''
  if (text.trim() === '') return void (choices.value = [])
  const coordinates = readCoordinates(text)
  if (coordinates)
    return void (choices.value = [{ ...coordinates, name: '', title: formatCoordinates(coordinates), subtitle: 'Coordinates as typed' }])
  control = new AbortController()
  const { signal } = control
  try {
    const found = await searchPlaces(text, props.near, signal)
    choices.value = found.map(choiceOf)
  } catch (error) {
    if (!signal.aborted) problem.value = error instanceof ApiError ? error.message : String(error)
  }
})

/** "Munich, Bavaria, Germany, 1,260,391 people" for München: what distinguishes it from others of that name. */
const choiceOf = ({ name, known, region, country, population, lon, lat }: Place): Choice => ({
  lon,
  lat,
  name,
  title: name,
  subtitle: [
    known === name ? '' : known,
    region === known ? '' : region,
    country,
    population > 0 ? `${population.toLocaleString('en')} people` : '',
  ]
    .filter((part) => part !== '')
    .join(', '),
})

function take(choice: Choice | null) {
  if (!choice) return
  emit('choose', { name: choice.name, lon: choice.lon, lat: choice.lat })
  typed.value = ''
  choices.value = []
}

/** Escape closes the list first, and then leaves the field, so that the keys of the stage work again. */
function escape(event: KeyboardEvent) {
  if (typed.value === '') (event.target as HTMLElement).blur()
}

defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div class="search">
    <v-autocomplete
      ref="field"
      v-model:search="typed"
      :model-value="null"
      :items="choices"
      :label="label"
      :prepend-inner-icon="mdiMagnify"
      item-title="title"
      item-props
      return-object
      no-filter
      auto-select-first
      hide-details
      menu-icon=""
      :menu-props="{ maxHeight: 340, contentClass: 'place-choices' }"
      :hide-no-data="asked.trim() === ''"
      data-testid="place-search"
      @update:model-value="take"
      @keydown.esc="escape"
    >
      <template #no-data>
        <p class="nothing">{{ problem || 'No such place: try a larger one nearby, or type coordinates.' }}</p>
      </template>
      <template #append-item><p v-if="choices.some((choice) => choice.name)" class="credit">Places: GeoNames, CC BY 4.0</p></template>
    </v-autocomplete>
  </div>
</template>

<style scoped>
.nothing,
.credit {
  padding: 6px 16px;
  font-size: 13px;
  color: var(--quiet);
}
</style>
