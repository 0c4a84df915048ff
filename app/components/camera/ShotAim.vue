<script setup lang="ts">
import { computed } from 'vue'
import { boundsOf } from '#core/journey/bounds'
import type { Shot } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import { nameOfTraveller } from '#core/edits/trips/travellers'
import { globeOf } from '#core/shots/globe'
import { nameOfStop } from '#core/journey/lookup'
import { groundCorners } from '#core/sheet/place'
import FieldList from '~/components/fields/FieldList.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useEditor } from '~/stores/editor'
import type { KindFields } from './shot-fields'
import { AIM_FIELDS, SHOT_FIELDS } from './shot-fields'
import { nameOfLeg } from './shot-names'
import ViewFields from './ViewFields.vue'
import ZoomField from './ZoomField.vue'

/** What a shot looks at, from where, and how near. Emits the changed shot, and what of it has changed. */
const props = defineProps<{ shot: Shot }>()
const emit = defineEmits<{ change: [shot: Shot, field: string]; done: [] }>()
const editor = useEditor()

const journey = computed(() => editor.journey!)
const stops = computed(() => journey.value.stops.map((stop) => ({ value: stop.id, title: nameOfStop(stop) })))
/** Whether the map is narrower than the Earth's radius, so that most of the globe is bare. */
const coversLittle = computed(() => {
  const { geo } = editor
  const [left, right] = geo ? groundCorners(geo.sheet) : []
  const around = geo && left && globeOf(geo).around(left)
  return around !== undefined && Math.hypot(right!.x - left!.x, right!.y - left!.y) < around.radius
})
/** How a shot of this kind is edited, apart from what most have. */
const fields = computed(() => SHOT_FIELDS[props.shot.kind] as KindFields<Shot>)
const legs = computed(() =>
  journey.value.travellers.flatMap((traveller) => traveller.legs.map(({ id }) => ({ value: id, title: nameOfLeg(journey.value, id) }))),
)
const travellers = computed(() =>
  journey.value.travellers.map((traveller) => ({ value: traveller.id, title: nameOfTraveller(journey.value, traveller) })),
)

/** Whom a shot follows that follows nobody in particular. */
const everybody = computed(() => {
  const seen = journey.value.travellers.filter(({ shown, visits }) => shown && visits.length > 0)
  return `All: ${seen.map((traveller) => nameOfTraveller(journey.value, traveller)).join(', ')}`
})

const FILLS = boundsOf(shotSchema, 'fill', 100)
/** Changes fields of the shot's own kind. */
const set = (fields: Record<string, unknown>) => emit('change', { ...props.shot, ...fields } as Shot, Object.keys(fields).join())
function once(fields: Record<string, unknown>) {
  set(fields)
  emit('done')
}
const isShifted = computed(() => 'shift' in props.shot && (props.shot.shift.x !== 0 || props.shot.shift.y !== 0))
</script>

<template>
  <template v-if="'view' in shot">
    <ViewFields :view="shot.view" @change="(view) => set({ view })" @done="emit('done')" />
  </template>
  <template v-else>
    <p v-if="shot.kind === 'globe' && !editor.geo" class="quiet" role="status">
      The map does not say where it lies on the Earth, so this is an overview. Give it control points, or use a drawn map.
    </p>
    <p v-else-if="shot.kind === 'globe' && coversLittle" class="quiet" role="status">
      The map shows only a part of the Earth: the rest of the globe has the colour of the ground.
    </p>
    <FieldRow v-if="'stop' in shot" v-slot="{ id }" :label="fields.of!">
      <v-select
        :aria-labelledby="id"
        data-testid="shot-stop"
        :items="fields.none === undefined ? stops : [{ value: '', title: fields.none }, ...stops]"
        :model-value="shot.stop ?? ''"
        @update:model-value="(stop) => once({ stop: stop === '' ? null : stop })"
      />
    </FieldRow>
    <FieldRow v-if="'leg' in shot" v-slot="{ id }" :label="fields.of!">
      <v-select :aria-labelledby="id" :items="legs" :model-value="shot.leg" @update:model-value="(leg) => once({ leg })" />
    </FieldRow>
    <FieldRow v-if="'travellers' in shot && travellers.length > 1" v-slot="{ id }" :label="fields.of!">
      <v-select
        :aria-labelledby="id"
        multiple
        :placeholder="everybody"
        persistent-placeholder
        :items="travellers"
        :model-value="shot.travellers"
        @update:model-value="(list) => once({ travellers: [...list] })"
      />
    </FieldRow>

    <NumberSlider
      v-if="'fill' in shot"
      label="Fills"
      :model-value="Math.round(shot.fill * 100)"
      v-bind="FILLS"
      unit="%"
      @change="(percent) => set({ fill: percent / 100 })"
      @done="emit('done')"
    />
    <ZoomField v-else :model-value="shot.zoom" @change="(zoom) => set({ zoom })" @done="emit('done')" />
    <FieldList :model-value="shot" :fields="AIM_FIELDS" data-testid="shot-aim" @change="set" @done="emit('done')" />
    <FieldList
      v-if="fields.own"
      :model-value="shot"
      :fields="fields.own"
      :data-testid="`${shot.kind}-fields`"
      @change="set"
      @done="emit('done')"
    />
    <div v-if="isShifted" class="buttons">
      <v-btn size="small" variant="outlined" @click="once({ shift: { x: 0, y: 0 } })">Back to the middle</v-btn>
    </div>
  </template>
</template>
