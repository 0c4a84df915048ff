<script setup lang="ts">
import { computed } from 'vue'
import type { Shot } from '#core/journey/schema'
import { nameOfTraveller } from '#core/edits/trips/travellers'
import { globeOf } from '#core/shots/globe'
import { nameOfStop } from '#core/journey/lookup'
import { groundCorners } from '#core/sheet/place'
import FieldList from '~/components/fields/FieldList.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useEditor } from '~/stores/editor'
import { AIM_FIELDS, CHASE_FIELDS, GLOBE_FIELDS } from './shot-fields'
import { nameOfShot } from './shot-names'
import ViewFields from './ViewFields.vue'
import ZoomField from './ZoomField.vue'

/** What a shot looks at, from where, and how near. Emits the changed shot, and what of it has changed. */
const props = defineProps<{ shot: Shot }>()
const emit = defineEmits<{ change: [shot: Shot, field: string]; done: [] }>()
const editor = useEditor()

const journey = computed(() => editor.journey!)
const stops = computed(() => journey.value.stops.map((stop) => ({ value: stop.id, title: nameOfStop(stop) })))
/** What of the Earth may be in front. */
const fronts = computed(() => [{ value: '', title: 'The whole trip' }, ...stops.value])
/** Whether the map is narrower than the Earth's radius, so that most of the globe is bare. */
const coversLittle = computed(() => {
  const { geo } = editor
  const [left, right] = geo ? groundCorners(geo.sheet) : []
  const around = geo && left && globeOf(geo).around(left)
  return around !== undefined && Math.hypot(right!.x - left!.x, right!.y - left!.y) < around.radius
})
const legs = computed(() =>
  journey.value.travellers.flatMap(
    (traveller) =>
    traveller.legs.map(({ id }) => ({ value: id, title: nameOfShot(journey.value, { ...props.shot, kind: 'leg', leg: id } as Shot).replace(/^[^:]*: /, '') })), // prettier-ignore
  ),
)
const travellers = computed(() =>
  journey.value.travellers.map((traveller) => ({ value: traveller.id, title: nameOfTraveller(journey.value, traveller) })),
)

/** Changes fields of the shot's own kind. */
const set = (fields: Record<string, unknown>) => emit('change', { ...props.shot, ...fields } as Shot, Object.keys(fields).join())
function once(fields: Record<string, unknown>) {
  set(fields)
  emit('done')
}
const isShifted = computed(() => props.shot.kind !== 'free' && (props.shot.shift.x !== 0 || props.shot.shift.y !== 0))
</script>

<template>
  <template v-if="shot.kind === 'free'">
    <ViewFields :view="shot.view" @change="(view) => set({ view })" @done="emit('done')" />
  </template>
  <template v-else>
    <FieldRow v-if="shot.kind === 'close-up'" v-slot="{ id }" label="Of">
      <v-select :aria-labelledby="id" :items="stops" :model-value="shot.stop" @update:model-value="(stop) => once({ stop })" />
    </FieldRow>
    <p v-if="shot.kind === 'globe' && !editor.geo" class="quiet" role="status">
      The map does not say where it lies on the Earth, so this is an overview. Give it control points, or use a drawn map.
    </p>
    <p v-else-if="shot.kind === 'globe' && coversLittle" class="quiet" role="status">
      The map shows only a part of the Earth: the rest of the globe has the colour of the ground.
    </p>
    <FieldRow v-if="shot.kind === 'globe'" v-slot="{ id }" label="In front">
      <v-select
        :aria-labelledby="id"
        data-testid="globe-front"
        :items="fronts"
        :model-value="shot.stop ?? ''"
        @update:model-value="(stop) => once({ stop: stop === '' ? null : stop })"
      />
    </FieldRow>
    <FieldRow v-if="shot.kind === 'leg'" v-slot="{ id }" label="Of">
      <v-select :aria-labelledby="id" :items="legs" :model-value="shot.leg" @update:model-value="(leg) => once({ leg })" />
    </FieldRow>
    <FieldRow v-if="shot.kind === 'chase' && travellers.length > 1" v-slot="{ id }" label="Follows">
      <v-select
        :aria-labelledby="id"
        multiple
        placeholder="all"
        :items="travellers"
        :model-value="shot.travellers"
        @update:model-value="(list) => once({ travellers: [...list] })"
      />
    </FieldRow>

    <NumberSlider
      v-if="'fill' in shot"
      label="Fills"
      :model-value="Math.round(shot.fill * 100)"
      :min="10"
      :max="400"
      unit="%"
      @change="(percent) => set({ fill: percent / 100 })"
      @done="emit('done')"
    />
    <ZoomField v-else :model-value="shot.zoom" @change="(zoom) => set({ zoom })" @done="emit('done')" />
    <FieldList :model-value="shot" :fields="AIM_FIELDS" data-testid="shot-aim" @change="set" @done="emit('done')" />
    <FieldList v-if="shot.kind === 'globe'" :model-value="shot" :fields="GLOBE_FIELDS" @change="set" @done="emit('done')" />
    <FieldList
      v-if="shot.kind === 'chase'"
      :model-value="shot"
      :fields="CHASE_FIELDS"
      data-testid="chase-fields"
      @change="set"
      @done="emit('done')"
    />
    <div v-if="isShifted" class="buttons">
      <v-btn size="small" variant="outlined" @click="once({ shift: { x: 0, y: 0 } })">Back to the middle</v-btn>
    </div>
  </template>
</template>
