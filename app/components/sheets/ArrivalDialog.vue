<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Point } from '#core/geometry/point'
import type { Sheet } from '#core/journey/schema'
import { sheetSchema } from '#core/journey/schema'
import type { ReplaceBy } from '#core/edits/ground/sheets'
import { usualReplacement } from '#core/edits/ground/sheets'
import { sheetToGround } from '#core/sheet/place'
import DialogSheet from '~/components/DialogSheet.vue'
import type { Arrival, Use } from '~/composables/use-sheet-import'
import { useEditor } from '~/stores/editor'
import SheetViewer from './SheetViewer.vue'

/** Asks how to use an imported map if there are sheets already: to replace one, over the others, or for tracing. */
const props = defineProps<{ arrival: Arrival | undefined }>()
const emit = defineEmits<{ settle: [use: Use]; cancel: [] }>()
const editor = useEditor()

const use = ref<Use['use']>('lay')
const target = ref('')
const by = ref<ReplaceBy['by']>('frame')
const spots = ref<{ old: Point[]; next: Point[] }>({ old: [], next: [] })

const sheets = computed(() => editor.journey?.sheets ?? [])
const old = computed(() => sheets.value.find((sheet) => sheet.id === target.value))
const next = computed<Sheet | undefined>(() => props.arrival && sheetSchema.parse({ ...props.arrival.image, id: 'arrived' }))
const byEarth = computed(
  () => old.value !== undefined && next.value !== undefined && usualReplacement(old.value, next.value).by === 'lonlat',
)
const ready = computed(
  () => use.value !== 'replace' || by.value !== 'points' || (spots.value.old.length === 2 && spots.value.next.length === 2),
)

watch(
  () => props.arrival,
  (arrival) => {
    if (!arrival) return
    use.value = arrival.replaces === undefined ? 'lay' : 'replace'
    target.value = arrival.replaces ?? editor.selectedSheet?.id ?? sheets.value[0]!.id
    spots.value = { old: [], next: [] }
  },
  { immediate: true },
)
watch(
  [() => props.arrival, target],
  () => {
    by.value = byEarth.value ? 'lonlat' : 'frame'
    spots.value = { old: [], next: [] }
  },
  { immediate: true },
)

/** The third click starts over. */
const mark = (side: 'old' | 'next', spot: Point) =>
  (spots.value = { ...spots.value, [side]: [...spots.value[side].slice(0, spots.value[side].length % 2), spot] })

function how(): ReplaceBy {
  if (by.value !== 'points') return { by: by.value }
  const pair = (i: 0 | 1) => ({ ground: sheetToGround(old.value!.place, spots.value.old[i]!), sheet: spots.value.next[i]! })
  return { by: 'points', pairs: [pair(0), pair(1)] }
}
const settle = () => emit('settle', use.value === 'replace' ? { use: 'replace', id: target.value, how: how() } : { use: use.value })
</script>

<template>
  <DialogSheet :model-value="arrival !== undefined" fixed title="A new map" :width="use === 'replace' && by === 'points' ? 900 : 520">
    <p v-if="arrival">“{{ arrival.image.name }}” is ready. What is it for?</p>
    <v-radio-group v-model="use" hide-details>
      <v-radio value="lay" label="Add it on top" />
      <v-radio value="replace" label="Replace another map with it" />
      <v-radio value="trace" label="Use it for tracing only, never in the film" />
    </v-radio-group>
    <template v-if="use === 'replace'">
      <v-select v-if="sheets.length > 1" v-model="target" label="Replace" :items="sheets" item-title="name" item-value="id" />
      <p>Stops, courses and areas keep their place</p>
      <v-radio-group v-model="by" hide-details>
        <v-radio value="lonlat" :disabled="!byEarth" :label="byEarth ? 'on the Earth' : 'on the Earth (not known of both maps)'" />
        <v-radio value="points" label="by two spots that you match" />
        <v-radio value="frame" label="in the frame" />
      </v-radio-group>
      <div v-if="by === 'points' && old && next" class="pair">
        <div>
          <p>Click two spots, far apart, on the old map …</p>
          <SheetViewer :sheet="old" :spots="spots.old" label="The old map" data-testid="match-old" @point="(spot) => mark('old', spot)" />
        </div>
        <div>
          <p>… and the same two, in the same order, on the new one.</p>
          <SheetViewer
            :sheet="next"
            :spots="spots.next"
            label="The new map"
            data-testid="match-new"
            @point="(spot) => mark('next', spot)"
          />
        </div>
      </div>
    </template>
    <template #actions>
      <v-btn variant="text" @click="emit('cancel')">Discard</v-btn>
      <v-btn color="accent" variant="flat" :disabled="!ready" data-testid="settle-sheet" @click="settle">{{
        use === 'replace' ? 'Replace' : 'Lay it'
      }}</v-btn>
    </template>
  </DialogSheet>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
.pair p {
  margin-bottom: 6px;
  font-size: 14px;
}
</style>
