<script setup lang="ts">
import { mdiCheck, mdiClose, mdiEyedropperVariant } from '@mdi/js'
import { nanoid } from 'nanoid'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { hexOf } from '#core/colour/srgb'
import type { Point } from '#core/geometry/point'
import { drawnCourse } from '#core/edits/lines/courses'
import { editLeg } from '#core/edits/lines/legs'
import { goOnTo } from '#core/edits/trips/visits'
import { legEnds } from '#core/journey/lookup'
import type { FollowState } from '~/composables/use-follow'
import { useFollow } from '~/composables/use-follow'
import { useFirstLeg } from '~/composables/use-first-leg'
import { followPointer } from '~/composables/use-pointer-drag'
import { useSnapping } from '~/composables/use-snapping'
import { useToolKeys } from '~/composables/use-tool-keys'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import type { StageSpace } from './stage-space'
import { pointerOn, chainOnStage, fromStage, toStage } from './stage-space'

/**
 * Draws a course along a road visible on the map. With a leg selected, from its first stop to its second at once; otherwise from the end of the
 * trip to the clicked spot. Further clicks correct the way, until it is accepted.
 */
const props = defineProps<{ space: StageSpace }>()
const editor = useEditor()
const firstLeg = useFirstLeg()
const stage = useStage()
const { snap } = useSnapping(() => props.space)
const follow = useFollow()

const picking = ref(false)
/** The start of a trip without stops. */
const begun = shallowRef<Point>()

const leg = computed(() => editor.selectedLeg)
const lastStop = computed(() => editor.itinerary?.visits.at(-1)?.stop)
const start = computed(() => lastStop.value?.at ?? begun.value)

function reset() {
  follow.clear()
  picking.value = false
  begun.value = undefined
  const ends = leg.value && legEnds(editor.journey!, leg.value.id)
  if (ends) follow.begin(...ends)
}
onMounted(reset)
watch(() => leg.value?.id, reset)

const board = ref<SVGSVGElement>()
const groundAt = (event: PointerEvent) => fromStage(props.space, pointerOn(board.value!, event))

function press(event: PointerEvent) {
  if (event.button !== 0) return
  event.stopPropagation()
  const p = groundAt(event)
  if (picking.value) {
    picking.value = false
    void follow.pick(p)
  } else if (follow.ends.value) follow.addVia(p)
  else if (start.value) follow.begin(start.value, snap(p, event).at)
  else begun.value = snap(p, event).at
}

function pressVia(event: PointerEvent, i: number) {
  event.stopPropagation()
  followPointer(event, {
    move: (_by, now) => follow.moveVia(i, groundAt(now)),
    end: (dragged) => (dragged ? void follow.look() : follow.removeVia(i)),
  })
}

/** Uses the way as the leg's course, or as a new leg to a new stop; undone in one step. */
function take() {
  const { state, ends } = follow
  if (state.value.kind !== 'found' || !ends.value) return
  const course = drawnCourse(state.value.course)
  const [from, to] = ends.value
  const selected = leg.value
  const ids = { stop: nanoid(10), leg: nanoid(10) }
  const who = { traveller: editor.traveller!.id, dress: firstLeg.dressFor(editor.traveller!) }
  const done = editor.edit((journey) => {
    if (selected) return editLeg(journey, selected.id, { course })
    const begunAt = begun.value ? goOnTo(journey, from, { stop: nanoid(10), leg: nanoid(10) }, who) : journey
    return editLeg(goOnTo(begunAt, to, ids, who), ids.leg, { course })
  })
  if (!done) return
  follow.clear()
  begun.value = undefined
  if (selected) stage.setTool('select')
}

function back() {
  if (picking.value) picking.value = false
  else if (follow.state.value.kind === 'looking') follow.stop()
  else if (follow.ends.value && !leg.value) follow.clear()
  else stage.layDown()
}

useToolKeys(({ key, target }) => {
  // Enter on a button presses the button.
  const isButton = target instanceof HTMLElement && target.matches('button')
  return { Enter: isButton ? undefined : take, Escape: back }[key]
})

const line = computed(() => (follow.state.value.kind === 'found' ? chainOnStage(props.space, follow.state.value.course) : ''))
/** What the button for the way beside the one that is shown says. */
const other = computed(() => {
  const { state } = follow
  if (state.value.kind !== 'found' || !state.value.other) return ''
  return `${state.value.isDirect ? 'By the road' : 'More directly'} (${Math.round(state.value.other.onRoad * 100)} %)`
})
const swatch = computed(() => follow.colour.value && hexOf(follow.colour.value))
const lostAt = computed(() => {
  const { state } = follow
  return state.value.kind === 'lost' && state.value.at ? toStage(props.space, state.value.at) : undefined
})

/** What was found, and where it is not what one may think: stretches without a road, and a long way round. */
function foundWords({ onRoad, gap, detour, isDirect }: Extract<FollowState, { kind: 'found' }>): string {
  const share = `${Math.round(onRoad * 100)} % on the road`
  const parts = [isDirect ? `The more direct way: ${share}.` : `Found: ${share}.`]
  if (!isDirect && gap > 0) parts.push(`Over ${Math.round(gap)} px of the map no road is seen.`)
  if (!isDirect && detour > 1.5) parts.push(`It goes a long way round: ${detour.toFixed(1)} times the straight line.`)
  return [...parts, 'Click where it should pass; drag a mark to move it, click to remove it.'].join(' ')
}

const words = computed(() => {
  const state = follow.state.value
  if (picking.value) return 'Click the road to pick its colour.'
  if (state.kind === 'looking') return `Searching for the road … ${Math.round(state.share * 100)} %`
  if (state.kind === 'found') return foundWords(state)
  if (state.kind === 'lost') return `${state.reason} Click along the way, or pick the road’s colour.`
  if (follow.ends.value) return 'Stopped. Click along the road to search again.'
  return start.value ? 'Click where the road leads; the trip continues along it.' : 'Click where the trip begins.'
})
</script>

<template>
  <svg ref="board" class="following" :class="{ picking }" data-testid="following" @pointerdown="press">
    <path class="under" :d="line" />
    <path class="line" :d="line" data-testid="followed-line" />
    <circle v-if="lostAt" class="lost" r="14" :cx="lostAt.x" :cy="lostAt.y" />
    <template v-if="!follow.ends.value && start">
      <circle class="via" r="5" :cx="toStage(space, start).x" :cy="toStage(space, start).y" />
    </template>
    <g
      v-for="(via, i) in follow.vias.value"
      :key="i"
      class="mark"
      :transform="`translate(${toStage(space, via).x} ${toStage(space, via).y})`"
      data-testid="follow-via"
      @pointerdown="pressVia($event, i)"
    >
      <title>Drag to move, click to remove</title>
      <circle class="grab" r="12" />
      <circle class="via" r="5" />
    </g>
  </svg>
  <div class="panel" @pointerdown.stop @wheel.stop>
    <p role="status" :class="{ warn: follow.state.value.kind === 'lost' }">{{ words }}</p>
    <div class="row">
      <span class="swatch" :style="{ background: swatch ?? 'transparent' }" :title="swatch ? `The road’s colour: ${swatch}` : undefined" />
      <v-btn
        size="small"
        variant="outlined"
        :prepend-icon="mdiEyedropperVariant"
        :active="picking"
        data-testid="follow-pick"
        @click="picking = !picking"
        >Pick the colour</v-btn
      >
      <v-btn v-if="follow.isChosen.value" size="small" variant="text" @click="follow.forgetColour()">Detect the colour</v-btn>
      <v-btn v-if="other" size="small" variant="outlined" data-testid="follow-other" @click="follow.takeOther()">{{ other }}</v-btn>
      <v-spacer />
      <v-btn size="small" variant="text" :prepend-icon="mdiClose" @click="back">{{
        follow.state.value.kind === 'looking' ? 'Stop' : 'Cancel'
      }}</v-btn>
      <v-btn
        size="small"
        color="accent"
        variant="flat"
        :prepend-icon="mdiCheck"
        :disabled="follow.state.value.kind !== 'found'"
        data-testid="follow-take"
        @click="take"
        >Use this route</v-btn
      >
    </div>
    <v-progress-linear
      v-if="follow.state.value.kind === 'looking'"
      color="accent"
      :model-value="follow.state.value.share * 100"
      aria-label="Progress of the search"
    />
  </div>
</template>

<style scoped>
.following {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: none;
}
.picking {
  cursor: cell;
}
path {
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.under {
  stroke: rgba(13, 21, 34, 0.6);
  stroke-width: 6;
}
.line {
  stroke: #ff8a70;
  stroke-width: 3;
}
.mark {
  cursor: move;
}
.grab {
  fill: transparent;
}
.via {
  fill: #fdf8ec;
  stroke: #14233a;
  stroke-width: 1.8;
}
.lost {
  fill: none;
  stroke: #ffb86b;
  stroke-width: 3;
  stroke-dasharray: 5 4;
}
.panel {
  position: absolute;
  left: 50%;
  bottom: 10px;
  width: min(580px, calc(100% - 20px));
  transform: translateX(-50%);
  padding: 8px 12px 10px;
  border-radius: 6px;
  background: var(--surface);
  box-shadow: 0 4px 18px rgba(13, 21, 34, 0.35);
  cursor: auto;
  font-size: 14px;
}
.panel p {
  margin-bottom: 6px;
}
.warn {
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
.row {
  display: flex;
  align-items: center;
  gap: 8px;
}
.swatch {
  width: 24px;
  height: 24px;
  border-radius: 4px;
  border: 1px solid var(--rule);
}
</style>
