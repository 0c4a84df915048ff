<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { formatCoordinates } from '#core/formats/coordinates'
import { affine, transformed } from '#core/geo/homography'
import { planeMap, planeName } from '#core/geo/plane'
import type { Plane } from '#core/journey/schema'
import DialogSheet from '~/components/DialogSheet.vue'
import { ApiError, placeAt, readSystem } from '~/services/api'
import { useWorldFile } from '~/stores/world-file'

/** Asks for the coordinate system of a world file in metres, and shows where the map would lie, so that a wrong choice is noticed. */
const store = useWorldFile()

const kind = ref<'mercator' | 'utm' | 'epsg'>('epsg')
const zone = ref('32')
const south = ref(false)
const code = ref('')
const listed = shallowRef<Plane>()
const problem = ref('')
const near = ref('')

watch(
  () => store.question,
  (question) => {
    if (!question) return
    kind.value = question.mayBe.mercator ? 'mercator' : question.mayBe.utm ? 'utm' : 'epsg'
    code.value = ''
    listed.value = undefined
    problem.value = ''
  },
)

async function lookUp() {
  problem.value = ''
  listed.value = undefined
  const number = Number(code.value.replace(/^\s*EPSG:?\s*/i, ''))
  if (!Number.isInteger(number) || number < 1)
    return void (problem.value = 'Type the number of a system in the EPSG registry, such as 2056.')
  try {
    listed.value = await readSystem(number)
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  }
}

const plane = computed<Plane | undefined>(() => {
  if (kind.value === 'mercator') return { kind: 'mercator' }
  if (kind.value === 'epsg') return listed.value
  const number = Number(zone.value)
  return Number.isInteger(number) && number >= 1 && number <= 60 ? { kind: 'utm', zone: number, south: south.value } : undefined
})
/** Where the map's middle would lie. */
const middle = computed(() => {
  const { question } = store
  if (!question || !plane.value) return undefined
  const at = transformed(affine(...question.matrix), { x: question.size.width / 2, y: question.size.height / 2 })!
  return planeMap(plane.value).inverse(at)
})
watch(middle, async (at) => {
  near.value = ''
  const place = at && (await placeAt(at, 80).catch(() => undefined))
  if (at === middle.value && place) near.value = `, near ${place.name}, ${place.country}`
})
const cancel = () => store.question?.answer(undefined)
</script>

<template>
  <DialogSheet :model-value="store.question !== undefined" title="Which coordinates are these?" fixed>
    <p>
      “{{ store.question?.name }}” is in metres, but does not say of which coordinate system. A .prj file chosen together with it would
      tell.
    </p>
    <v-radio-group v-model="kind" hide-details>
      <v-radio v-if="store.question?.mayBe.mercator" value="mercator" label="Web Mercator, as web maps are" />
      <v-radio v-if="store.question?.mayBe.utm" value="utm" label="UTM" />
      <v-radio value="epsg" label="A national grid or another system, by its EPSG number" />
    </v-radio-group>
    <div v-if="kind === 'utm'" class="pair">
      <v-text-field v-model="zone" label="Zone, 1 to 60" inputmode="numeric" data-testid="utm-zone" />
      <v-checkbox v-model="south" label="South of the equator" hide-details />
    </div>
    <v-text-field
      v-if="kind === 'epsg'"
      v-model="code"
      label="EPSG number"
      placeholder="2056"
      :error-messages="problem"
      data-testid="epsg-code"
      @change="lookUp"
    />
    <p role="status" data-testid="system-middle">
      <template v-if="plane && middle">{{ planeName(plane) }}: the map’s middle is at {{ formatCoordinates(middle) }}{{ near }}.</template>
      <template v-else-if="plane">In {{ planeName(plane) }} the map would lie outside the Earth.</template>
    </p>
    <template #actions>
      <v-btn variant="text" @click="cancel">Leave it without a place</v-btn>
      <v-btn color="accent" variant="flat" :disabled="!middle" data-testid="take-system" @click="store.question?.answer(plane)"
        >Use these coordinates</v-btn
      >
    </template>
  </DialogSheet>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 140px 1fr;
  gap: 12px;
}
</style>
