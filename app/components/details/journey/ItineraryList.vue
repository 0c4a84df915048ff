<script setup lang="ts">
import { mdiDragVertical } from '@mdi/js'
import { computed, useTemplateRef } from 'vue'
import { moveVisit } from '#core/edits/trips/visits'
import { nameOfStop } from '#core/journey/lookup'
import type { Ink } from '#core/journey/schema'
import { simpleDashes } from '~/services/simple-dashes'
import VehiclePicture from '~/components/fields/VehiclePicture.vue'
import { useSortableList } from '~/composables/use-sortable-list'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** The stops in the order of the trip, with the legs between; reordered by dragging, or with Alt and the arrow keys. */
const editor = useEditor()
const stage = useStage()
const list = useTemplateRef<HTMLElement>('list')
const stops = computed(() => editor.itinerary!.visits.map((visit) => visit.stop))
const legs = computed(() => editor.traveller!.legs)

useSortableList(list, move)

/** A miniature of the leg's stroke: solid, dashed or dotted. */
function strokeOf({ colour, line }: Ink) {
  return { stroke: colour, 'stroke-width': 4, ...simpleDashes(line, 4) } as const
}

function move(from: number, to: number) {
  if (to >= 0 && to < stops.value.length) editor.edit((journey) => moveVisit(journey, from, to, editor.traveller!.id))
}
</script>

<template>
  <p v-if="stops.length === 0" class="quiet">No stops yet.</p>
  <ol ref="list" class="list">
    <li v-for="(stop, i) in stops" :key="`${stop.id} ${i}`">
      <div class="stop">
        <button
          type="button"
          class="grip"
          :aria-label="`Move ${nameOfStop(stop)}: drag, or press Alt and an arrow key`"
          title="Drag, or press Alt and an arrow key"
          @keydown.alt.up.prevent.stop="move(i, i - 1)"
          @keydown.alt.down.prevent.stop="move(i, i + 1)"
        >
          <v-icon :icon="mdiDragVertical" size="18" />
        </button>
        <button
          type="button"
          class="name serif"
          :class="{ unnamed: stop.name === '' }"
          @click="editor.select({ kind: 'stop', id: stop.id, visit: i })"
          @dblclick="stage.askName(stop.id)"
        >
          {{ nameOfStop(stop) }}
        </button>
      </div>
      <button v-if="legs[i]" type="button" class="leg" @click="editor.select({ kind: 'leg', id: legs[i]!.id })">
        <VehiclePicture v-if="legs[i]!.vehicle" :vehicle="legs[i]!.vehicle!" class="art" />
        <svg class="stroke" aria-hidden="true"><line x1="3" y1="4" x2="100%" y2="4" v-bind="strokeOf(legs[i]!.ink)" /></svg>
        <span class="visually-hidden">Leg {{ i + 1 }}</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
}
.stop {
  display: flex;
  align-items: center;
}
.grip {
  cursor: grab;
  width: 24px;
  height: 28px;
  color: var(--quiet);
}
.name {
  flex: 1;
  text-align: left;
  font-size: 17px;
  font-weight: 700;
  padding: 2px 4px;
  cursor: pointer;
  border-radius: 3px;
}
.name:hover,
.leg:hover {
  background: color-mix(in srgb, var(--sea) 12%, transparent);
}
.leg {
  display: flex;
  align-items: center;
  gap: 8px;
  width: calc(100% - 28px);
  margin-left: 28px;
  min-height: 26px;
  cursor: pointer;
  border-radius: 3px;
}
.art {
  width: 40px;
  height: 30px;
}
.stroke {
  flex: 1;
  height: 8px;
  min-width: 0;
}
.unnamed {
  color: var(--quiet);
  font-style: italic;
}
</style>
