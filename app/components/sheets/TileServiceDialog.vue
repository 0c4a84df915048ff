<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { withMargin, regionAround } from '#core/maps/region'
import { movedInPlane, regionInPlane } from '#core/tiles/grids'
import type { TileOrder } from '#core/tiles/order'
import { tileOrderSchema } from '#core/tiles/order'
import type { Sheet } from '#core/journey/schema'
import DialogSheet from '~/components/DialogSheet.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import PlaceSearch from '~/components/places/PlaceSearch.vue'
import RegionPicture from './RegionPicture.vue'
import { useTileService } from '~/composables/use-tile-service'
import { useEditor } from '~/stores/editor'

/** Takes a map from a tile service: its address, who is to be credited, the region, and how sharp. `from` is the sheet that is taken anew. */
const props = defineProps<{ from: Sheet | undefined }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ take: [order: TileOrder, showsCredit: boolean] }>()
const editor = useEditor()
const tiles = useTileService(open)
const { address, key, problem, isLooking, look, found, mapId, service, credit, isCredited, region, sharp, level } = tiles
const { need, planned, seen, order, brokenOff, discard, standIn, metresAt, chooseMap } = tiles
const { address: pictureAddress, isComing: isPictureComing, problem: pictureProblem } = tiles.picture
const { address: detailAddress, isComing: isDetailComing, problem: detailProblem } = tiles.detail

watch(open, (isOpen) => {
  if (isOpen && props.from?.taken) tiles.showTaken(props.from.taken, props.from.credit)
})

/** The stand-in of the demo, which needs no more than a click. */
function tryIsles() {
  address.value = `${standIn.value}/tiles.json`
  void look().then(() => (credit.value = { ...credit.value, author: 'Zephyrine', licence: 'CC0 1.0' }))
}

const aspect = computed(() => {
  const shown = sharp.value === 'camera' ? need.value?.region : region.value
  if (!service.value || !shown) return 16 / 9
  const { left, right, top, bottom } = regionInPlane(service.value.grid, shown)
  return (right - left) / (top - bottom)
})

/** Moving the region by hand means to take all of it. */
function move(right: number, down: number, larger: number) {
  const shown = sharp.value === 'camera' ? need.value?.region : region.value
  if (!service.value || !shown) return
  sharp.value = 'region'
  tiles.setRegion(movedInPlane(service.value.grid, shown, right, down, larger))
}

function showPlace(place: { lon: number; lat: number }) {
  sharp.value = 'region'
  tiles.setRegion(tiles.framed(regionAround([place], 0.5)))
}
function showStops() {
  const stops = tiles.regionOfStops()
  if (!stops) return
  sharp.value = 'region'
  tiles.setRegion(tiles.framed(stops))
}
function showAll() {
  sharp.value = 'region'
  tiles.setRegion(service.value?.covers ? withMargin(service.value.covers, 0.02) : tiles.WORLD)
}

const hasStops = computed(() => editor.journey!.stops.length > 0 && tiles.regionOfStops() !== undefined)
const levels = computed(() => service.value?.grid.levels ?? [])
const ground = (metres: number) =>
  metres >= 1000 ? `${(metres / 1000).toFixed(1)} km` : metres >= 10 ? `${Math.round(metres)} m` : `${metres.toFixed(1)} m`
const levelWords = computed(() => `${ground(metresAt(level.value))} to the pixel`)
const trouble = computed(() => (planned.value && 'problem' in planned.value ? planned.value.problem : pictureProblem.value))
const count = computed(() => (planned.value && 'count' in planned.value ? planned.value.count : 0))
const megabytes = computed(() => (count.value * (seen.value?.bytes ?? 0)) / 1e6)
const plural = (number: number) => (number === 1 ? '1 tile' : `${number.toLocaleString('en')} tiles`)
const amount = computed(() =>
  seen.value
    ? `${plural(count.value)}, about ${megabytes.value < 10 ? megabytes.value.toFixed(1) : Math.round(megabytes.value)} MB`
    : plural(count.value),
)

/** Whether the film is to name who made the map. */
const showsCredit = ref(false)
const offersCredit = computed(() => isCredited.value && !editor.journey!.creditLine)

/** Gives a copy, which nothing here changes any more. */
function take(order: TileOrder | undefined) {
  if (!order) return
  open.value = false
  emit('take', tileOrderSchema.parse(order), showsCredit.value)
}

const CREDITS = [
  { field: 'author', label: 'Who made it', hint: 'As the service wants to be named' },
  { field: 'licence', label: 'Licence', hint: 'What allows you to show it in a film' },
] as const
</script>

<template>
  <DialogSheet v-model="open" title="A map from a tile service" :width="1000">
    <form class="address" @submit.prevent="look()">
      <v-text-field
        v-model="address"
        label="Address"
        placeholder="https://example.org/{z}/{x}/{y}.png"
        persistent-placeholder
        autofocus
        maxlength="2000"
        autocomplete="off"
        spellcheck="false"
        data-testid="service-address"
      />
      <v-text-field
        v-model="key"
        class="key"
        label="Key, if it needs one"
        type="password"
        maxlength="500"
        autocomplete="off"
        data-testid="service-key"
        :placeholder="found?.hasKey ? 'kept for this service' : ''"
        persistent-placeholder
      />
      <v-btn
        type="submit"
        :color="found ? undefined : 'accent'"
        :variant="found ? 'outlined' : 'flat'"
        :loading="isLooking"
        :disabled="address.trim() === ''"
        data-testid="service-look"
        >Look</v-btn
      >
    </form>
    <p v-if="problem" class="problem" role="alert" data-testid="service-problem">{{ problem }}</p>

    <div v-if="!found" class="start">
      <p>
        The address of a tile with <code>{z}</code>, <code>{x}</code> and <code>{y}</code> in it, of a TileJSON, of a WMTS, or of a PMTiles
        archive. Its tiles must be pictures. They are kept on this computer, so that the film needs no network.
      </p>
      <p>Most services ask to be credited, and many forbid to show their maps in a video: read their terms first.</p>
      <p v-if="standIn">
        <v-btn size="small" variant="outlined" data-testid="try-isles" @click="tryIsles">Try it with the Lantern Isles</v-btn>
      </p>
      <template v-if="brokenOff.length > 0">
        <h3>Broken off</h3>
        <ul class="broken">
          <li v-for="one in brokenOff" :key="one.id" data-testid="broken-off">
            <span
              >{{ one.order.name }} <span class="quiet figures">{{ one.came.toLocaleString('en') }} of {{ plural(one.count) }}</span></span
            >
            <v-btn size="small" variant="outlined" @click="take(one.order)">Go on</v-btn>
            <v-btn size="small" variant="text" @click="discard(one.id)">Discard</v-btn>
          </li>
        </ul>
      </template>
    </div>

    <div v-else class="desk">
      <div>
        <RegionPicture class="picture" :aspect="aspect" :is-busy="isPictureComing" @move="move">
          <p v-if="!isCredited" class="quiet ask">Say who made the map and under which licence: then it is shown here.</p>
          <template v-else>
            <img
              v-if="pictureAddress && !trouble"
              :src="pictureAddress"
              :class="{ stale: isPictureComing }"
              alt="The region that is taken"
              draggable="false"
              data-testid="service-picture"
            />
            <p v-if="isPictureComing" class="busy" role="status"><v-progress-circular indeterminate size="24" color="primary" /></p>
            <p v-if="trouble" class="trouble" role="alert" data-testid="service-trouble">{{ trouble }}</p>
          </template>
        </RegionPicture>
        <div v-if="isCredited" class="under">
          <figure v-if="detailAddress && !trouble">
            <img :src="detailAddress" :class="{ stale: isDetailComing }" alt="A part of the map at its finest level" draggable="false" />
          </figure>
          <p class="quiet">
            <template v-if="detailProblem && !trouble">{{ detailProblem }}</template>
            <template v-else-if="detailAddress && !trouble">
              {{ sharp === 'camera' ? 'The closest shot, at its own level' : 'The middle, at this level' }}:
              {{ ground(metresAt(sharp === 'camera' ? need!.plan.finest : level)) }} to the pixel.
            </template>
          </p>
        </div>
      </div>

      <div class="fields">
        <v-autocomplete
          v-if="found.maps.length > 1"
          :model-value="mapId"
          label="Map"
          :items="found.maps"
          item-title="title"
          item-value="id"
          :clearable="false"
          data-testid="service-map"
          @update:model-value="chooseMap"
        />
        <v-text-field
          v-for="{ field, label, hint } in CREDITS"
          :key="field"
          v-model="credit[field]"
          :label="label"
          :hint="hint"
          persistent-hint
          maxlength="300"
          :data-testid="`service-${field}`"
        />
        <v-switch v-if="offersCredit" v-model="showsCredit" label="Name it in the film’s last second" data-testid="service-shows-credit" />
        <p v-if="found.terms" class="quiet">{{ found.terms }}.</p>
        <p v-if="found.unusable.length > 0" class="quiet">
          {{ found.unusable[0] }}
          <template v-if="found.unusable.length > 1">And {{ found.unusable.length - 1 }} more that cannot be used.</template>
        </p>
        <template v-if="isCredited">
          <v-radio-group v-model="sharp" label="Sharp" hide-details>
            <v-radio value="camera" :disabled="!need" data-testid="sharp-camera">
              <template #label>
                <span>
                  Where the camera is close
                  <span class="quiet figures">{{ need ? plural(need.count) : 'needs a georeferenced map first' }}</span>
                </span>
              </template>
            </v-radio>
            <v-radio value="region" label="The same all over a region" data-testid="sharp-region" />
          </v-radio-group>
          <p v-if="sharp === 'camera' && need?.isLimited" class="flag" role="note">
            The closest shot would need finer tiles than there are, or more than a sheet may have.
          </p>
          <template v-if="sharp === 'region'">
            <PlaceSearch label="Around a place" :near="undefined" @choose="showPlace" />
            <div class="buttons">
              <v-btn v-if="hasStops" size="small" variant="outlined" @click="showStops">Around my stops</v-btn>
              <v-btn size="small" variant="outlined" @click="showAll">All of it</v-btn>
            </div>
            <FieldRow v-slot="{ id }" :label="`Level ${levels[level]?.id ?? ''}: ${levelWords}`">
              <v-slider
                :id="id"
                v-model="level"
                :min="0"
                :max="levels.length - 1"
                :step="1"
                hide-details
                :aria-label="`Level, ${levelWords}`"
                data-testid="service-level"
              />
            </FieldRow>
          </template>
          <p v-if="count > 0 && !trouble" class="figures" data-testid="service-count">{{ amount }}</p>
        </template>
      </div>
    </div>

    <template #actions>
      <v-btn variant="text" @click="open = false">Cancel</v-btn>
      <v-btn v-if="found" color="accent" variant="flat" :disabled="!order" data-testid="take" @click="take(order)"
        >Take {{ count > 0 && !trouble ? plural(count) : 'them' }}</v-btn
      >
    </template>
  </DialogSheet>
</template>

<style scoped>
.address {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 210px auto;
  gap: 10px;
  align-items: center;
}
.problem {
  padding: 8px 12px;
  border-left: 4px solid rgb(var(--v-theme-error));
}
.start {
  display: grid;
  gap: 10px;
  max-width: 74ch;
}
.broken {
  display: grid;
  gap: 6px;
  padding: 0;
  list-style: none;
}
.broken li {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 8px;
  align-items: center;
}
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 18px;
  align-items: start;
}
.picture {
  min-height: 180px;
  max-height: 46vh;
}
.stale {
  opacity: 0.5;
}
.busy {
  position: absolute;
}
.ask {
  max-width: 34ch;
  text-align: center;
}
.trouble {
  position: absolute;
  max-width: 84%;
  padding: 10px 14px;
  background: var(--surface);
  border-left: 4px solid rgb(var(--v-theme-error));
}
.under {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 12px;
  align-items: center;
  margin-top: 10px;
}
figure {
  width: 220px;
  height: 124px;
  margin: 0;
  overflow: hidden;
  border: 1px solid var(--rule);
}
figure img {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.fields {
  display: grid;
  gap: 10px;
}
.fields :deep(.v-radio-group > .v-input__control > .v-label) {
  margin-inline-start: 0;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.quiet {
  font-size: 13px;
  color: var(--quiet);
}
@media (width < 860px) {
  .desk,
  .address {
    grid-template-columns: 1fr;
  }
}
</style>
