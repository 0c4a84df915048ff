<script setup lang="ts">
import { clamp } from '#core/geometry/clamp'
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { geodesicDistance } from '#core/geo/geodesic'
import type { LonLat } from '#core/geo/lon-lat'
import type { Point } from '#core/geometry/point'
import { editStop } from '#core/edits/marks/stops'
import type { Stop } from '#core/journey/schema'
import { useFieldEdits } from '~/composables/use-field-edits'
import type { Place } from '~/services/api'
import { placeAt } from '~/services/api'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** A stop's name, which gets the focus as soon as the stop is placed; on a georeferenced map the name of the place there is offered. */
const props = defineProps<{ stop: Stop }>()
const editor = useEditor()
const stage = useStage()
const { change, done } = useFieldEdits(() => `stop ${props.stop.id}`)

/** The place at the stop, if the list has one. */
const offered = ref<Place>()
const nameField = useTemplateRef<{ focus: () => void; $el: HTMLElement }>('nameField')
watch(
  () => [stage.naming, props.stop.id] as const,
  async ([naming, id]) => {
    if (naming !== id) return
    stage.naming = undefined
    await nextTick()
    nameField.value?.$el.querySelector('input')?.select()
    const { geo } = editor
    const here = geo?.toLonLat(props.stop.at)
    const place = here && (await placeAt(here, reachAround(props.stop.at, here)).catch(() => undefined))
    if (props.stop.id === id) offered.value = place
  },
  { immediate: true },
)
/** How far a click may be off, in kilometres: some pixels of the stage, but at least the width of a town. */
const REACH = 14
const SMALLEST_TOWN = 2
function reachAround({ x, y }: Point, here: LonLat): number {
  const aside = editor.geo!.toLonLat({ x: x + REACH / (stage.view.zoom * editor.compiled!.scale), y })
  return clamp(aside ? geodesicDistance(here, aside) / 1000 : 0, SMALLEST_TOWN, 200)
}
function takeName() {
  const { name } = offered.value!
  offered.value = undefined
  editor.edit((j) => editStop(j, props.stop.id, { name, found: true }))
}
const leaveField = (event: KeyboardEvent) => (event.target as HTMLElement).blur()
</script>

<template>
  <v-text-field
    ref="nameField"
    v-memo="[stop.name]"
    label="Name"
    class="name serif"
    data-testid="stop-name"
    :model-value="stop.name"
    maxlength="120"
    @update:model-value="(name) => change('name', (j) => editStop(j, stop.id, { name }))"
    @keydown.enter="leaveField"
    @keydown.esc.stop="leaveField"
    @blur="done"
  />
  <v-btn v-if="offered" size="small" variant="tonal" class="offer" data-testid="offered-name" @click="takeName"
    >Call it “{{ offered.name }}”</v-btn
  >
</template>

<style scoped>
.name :deep(input) {
  font-family: var(--serif);
  font-size: 20px;
  font-weight: 700;
}
.offer {
  margin-top: 6px;
}
</style>
