<script setup lang="ts">
import { computed } from 'vue'
import { onlyPlan, setPlan, setPlanGlobe } from '#core/edits/camera/shots'
import type { CameraPlan } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldList from '~/components/fields/FieldList.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import CameraChecks from './CameraChecks.vue'
import { PLANS, SHOT_CHOICES } from './shot-names'

/** The camera of the whole film: the plan by which it films by itself, and what is set by hand. */
const editor = useEditor()
const camera = useCamera()
const journey = computed(() => editor.journey!)
const GLOBE_FIELD: readonly FieldSpec<CameraPlan>[] = [{ key: 'globe', label: 'Opens on the globe', as: 'switch' }]
const chosen = computed(() => journey.value.plan.temperament ?? 'none')
/** Whether there was no time for the globe: it is neither there nor taken out by hand. */
const isTooShort = computed(
  () =>
    journey.value.plan.globe &&
    !journey.value.plan.without.includes('plan-globe') &&
    !editor.compiled?.shots.some(({ shot }) => shot.kind === 'globe'),
)
/** Whether a plan that should move stays on the whole trip, as whatever is closer would move too fast, or be soft. */
const staysWide = computed(
  () =>
    ['calm', 'lively'].includes(chosen.value) &&
    changes.value === 0 &&
    editor.compiled?.shots.length === 1 &&
    editor.compiled.shots[0]!.isPlanned,
)
/** What was taken out of the plan, or set instead of it. */
const changes = computed(() => journey.value.plan.without.length + journey.value.shots.length)
</script>

<template>
  <ChoiceRow
    label="Plan"
    data-testid="camera-plan"
    :model-value="chosen"
    :choices="PLANS"
    @change="(value) => editor.edit((j) => setPlan(j, value === 'none' ? null : value))"
  />
  <p class="quiet">{{ PLANS.find(({ value }) => value === chosen)?.about }}</p>
  <template v-if="chosen !== 'none' && editor.geo">
    <FieldList
      :model-value="journey.plan"
      :fields="GLOBE_FIELD"
      data-testid="plan-globe"
      @change="({ globe }) => editor.edit((j) => setPlanGlobe(j, globe!))"
    />
    <p v-if="isTooShort" class="quiet" role="status">
      The film is too short to descend from the globe at a comfortable speed: make it longer, or add a globe shot yourself.
    </p>
  </template>
  <p v-if="staysWide" class="quiet" role="status" data-testid="stays-wide">
    The camera stays on the whole trip. A longer film or a sharper map would let it come closer at this pace.
  </p>
  <CameraChecks :checks="camera.checks" />
  <div class="buttons">
    <v-menu>
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" size="small" variant="outlined" data-testid="add-shot" :disabled="journey.stops.length === 0"
          >Add a shot here …</v-btn
        >
      </template>
      <v-list density="compact">
        <v-list-item v-for="{ value, title } in SHOT_CHOICES" :key="value" :title="title" @click="camera.begin(value)" />
      </v-list>
    </v-menu>
    <v-btn v-if="chosen !== 'none' && changes > 0" size="small" variant="outlined" data-testid="only-plan" @click="editor.edit(onlyPlan)"
      >Discard manual shots</v-btn
    >
  </div>
</template>
