<script setup lang="ts">
import { computed } from 'vue'
import { courseGround } from '#core/courses/compile-course'
import { legEnds } from '#core/journey/lookup'
import { makeDrawn } from '#core/edits/lines/courses'
import type { Leg, NetworkCourse } from '#core/journey/schema'
import { routeOver } from '#core/network/route-over'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'

/** A course over a network: its criterion, the spots that it goes by way of, and whether there is a way at all. */
const props = defineProps<{ leg: Leg; course: NetworkCourse }>()
const editor = useEditor()
const { set } = useLegEdits(() => props.leg)

const BY = [
  { value: 'time', title: 'Fastest' },
  { value: 'distance', title: 'Shortest' },
] as const

const isFound = computed(() => {
  const ends = legEnds(editor.journey!, props.leg.id)
  return ends && routeOver(courseGround(editor.journey!).networks, props.course, ...ends) !== undefined
})
</script>

<template>
  <ChoiceRow label="Route" :model-value="course.by" :choices="BY" @change="(by) => set({ course: { ...course, by } })" />
  <p v-if="isFound" class="quiet">
    Pull the line to have it go over a spot{{ course.vias.length > 0 ? '; click a spot to let go of it' : '' }}. It knows the lines of this
    journey’s networks: a stand-in for a routing service.
  </p>
  <p v-else class="flag" role="status">No route along these lines, so the leg is straight.</p>
  <div class="buttons">
    <v-btn v-if="course.vias.length > 0" size="small" variant="outlined" @click="set({ course: { ...course, vias: [] } })">
      Clear all via points
    </v-btn>
    <v-btn v-if="isFound" size="small" variant="outlined" @click="editor.edit((j) => makeDrawn(j, leg.id))"
      >Convert to a drawn course</v-btn
    >
  </div>
</template>
