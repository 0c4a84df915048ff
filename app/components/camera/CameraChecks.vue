<script setup lang="ts">
import equal from 'fast-deep-equal'
import { computed } from 'vue'
import { setGround } from '#core/edits/ground/sheets'
import { longerTransition, putShot, reaimedShot, straightDown, zoomedShot } from '#core/edits/camera/shots'
import { viewAt } from '#core/camera/view-track'
import { heldIn } from '#core/sheet/framing'
import type { CameraCheck } from '#core/checks/camera-check'
import type { Shot } from '#core/journey/schema'
import { shotOfKind } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { toldCheck } from './shot-names'

/** Problems with what the camera shows, each with a way to see it and one to fix it. */
const props = defineProps<{ checks: readonly CameraCheck[] }>()
const editor = useEditor()
const playback = usePlayback()
const mapWidth = computed(() => editor.journey!.sheets[0]?.width)
const shotOf = ({ shot }: CameraCheck) => editor.compiled!.shots.find((entry) => entry.shot.id === shot)

/** What mends a check: the words on the button, and the edit; undefined where there is nothing that one action can do. */
function mendOf(check: CameraCheck): { title: string; run: () => void } | undefined {
  const entry = shotOf(check)
  switch (check.kind) {
    case 'edge':
      return { title: 'Stay on the map', run: () => (entry ? stayOnMap(check) : keepIn()) }
    case 'lost':
      return entry && followMend(entry.shot, check)
    case 'soft':
      return entry && { title: 'Draw back', run: () => editor.edit((j) => putShot(j, zoomedShot(entry.shot, 1 / check.worst))) }
    case 'fast': {
      // Only the way to a shot can take longer.
      const isOnWay = entry && check.worstAt <= entry.end
      return isOnWay
        ? { title: 'Take longer', run: () => editor.edit((j) => putShot(j, longerTransition(entry.shot, check.worst))) }
        : undefined
    }
    default:
      return check.kind satisfies never
  }
}
/** A chase looks straight down; what was to have the whole in view follows instead. */
function followMend(shot: Shot, { worstAt }: CameraCheck): { title: string; run: () => void } | undefined {
  const straight = (of: Shot | undefined) => of?.kind === 'chase' && editor.edit((j) => putShot(j, straightDown(of)))
  if (shot.kind !== 'chase')
    return { title: 'Follow instead', run: () => straight(shotOfKind(shot, 'chase', { seen: viewAt(editor.compiled!, worstAt) })) }
  const isStraight = equal(straightDown(shot), shot)
  return isStraight ? undefined : { title: 'Look straight down', run: () => straight(shot) }
}
const keepIn = () => editor.edit((journey) => setGround(journey, { edge: 'held' }))

/** Aims a shot so that the map fills the frame at the worst moment; on the way to it, or where that is not enough, the camera is kept on the map altogether. */
function stayOnMap(check: CameraCheck) {
  const entry = shotOf(check)!
  const { journey, compiled } = editor
  const [sheet] = journey!.sheets
  if (!sheet || check.worstAt < entry.end || entry.shot.kind === 'chase') return void keepIn()
  const now = viewAt(compiled!, check.worstAt)
  editor.edit((j) => putShot(j, reaimedShot(entry.shot, now, heldIn(sheet, now, compiled!.reference), compiled!.reference)))
}

const list = computed(() => props.checks.map((check) => ({ check, text: toldCheck(check, mapWidth.value), mend: mendOf(check) })))
</script>

<template>
  <ul v-if="list.length > 0" class="checks" aria-label="Camera problems">
    <li v-for="{ check, text, mend } in list" :key="`${check.kind} ${check.from}`" :class="check.kind" data-testid="camera-check">
      <button type="button" class="link" @click="playback.goToTime(check.worstAt)">{{ text }}</button>
      <v-btn v-if="mend" size="x-small" variant="outlined" @click="mend.run()">{{ mend.title }}</v-btn>
    </li>
  </ul>
</template>

<style scoped>
.checks {
  display: grid;
  gap: 6px;
  margin: 6px 0 10px;
  padding: 0;
  list-style: none;
  font-size: 13px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 8px;
  padding-left: 8px;
  border-left: 3px solid var(--vermilion);
}
.soft {
  border-color: var(--brass);
}
.link {
  text-align: left;
  cursor: pointer;
}
.link:hover {
  text-decoration: underline;
}
</style>
