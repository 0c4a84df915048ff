<script setup lang="ts">
import equal from 'fast-deep-equal'
import { computed } from 'vue'
import { setGround } from '#core/edits/ground/sheets'
import { longerTransition, putShot, reaimedShot, straightDown, zoomedShot } from '#core/edits/camera/shots'
import { comeCloser, tiltedLess } from '#core/edits/camera/keep-followed'
import { viewAt } from '#core/camera/view-track'
import { heldIn } from '#core/sheet/framing'
import type { CameraCheck } from '#core/checks/camera-check'
import { toldCheck } from '#core/checks/camera-check'
import type { ChaseShot, Shot } from '#core/journey/schema'
import { shotOfKind } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'

/** Problems with what the camera shows, each with a way to see it and one to fix it. */
const props = defineProps<{ checks: readonly CameraCheck[] }>()
const editor = useEditor()
const playback = usePlayback()
const mapWidth = computed(() => editor.journey!.sheets[0]?.width)
const shotOf = ({ shot }: CameraCheck) => editor.compiled!.shots.find((entry) => entry.shot.id === shot)

/** A way to mend a check: the words on the button, and what it does. */
interface Mend {
  title: string
  run: () => void
}

/** What mends a check; nothing where one action can do nothing. */
function mendsOf(check: CameraCheck): Mend[] {
  const entry = shotOf(check)
  const withShot = (title: string, shot: (old: Shot) => Shot): Mend[] =>
    entry ? [{ title, run: () => void editor.edit((j) => putShot(j, shot(entry.shot))) }] : []
  switch (check.kind) {
    case 'edge':
      return [{ title: 'Stay on the map', run: () => (entry ? stayOnMap(check) : keepIn()) }]
    case 'lost':
      return entry ? followMends(entry.shot, check) : []
    case 'soft':
      return withShot('Draw back', (shot) => zoomedShot(shot, 1 / check.worst))
    case 'fast':
      // Only the way to a shot can take longer.
      return entry && check.worstAt <= entry.end ? withShot('Take longer', (shot) => longerTransition(shot, check.worst)) : []
    case 'late':
      return withShot('Take less time', (shot) => ({ ...shot, transition: Math.floor((check.to - check.from) * 1000) / 1000 }))
    default:
      return check.kind satisfies never
  }
}

/** A chase is changed as little as will do, or the map may end in the frame; what was to have the whole in view follows instead. */
function followMends(shot: Shot, { worstAt }: CameraCheck): Mend[] {
  const put = (changed: Shot) => void editor.edit((j) => putShot(j, changed))
  if (shot.kind !== 'chase') {
    const chase = shotOfKind(shot, 'chase', { seen: viewAt(editor.compiled!, worstAt) })
    return chase?.kind === 'chase' ? [{ title: 'Follow instead', run: () => put(straightDown(chase)) }] : []
  }
  /** Takes what was found, and says what has been done. */
  const take = (found: ChaseShot | undefined, done: (found: ChaseShot) => string, failed: string) => {
    if (found) put(found)
    editor.notice = { text: found ? done(found) : failed }
  }
  const mends: Mend[] = [
    {
      title: 'Mirror the map at its edge',
      run() {
        editor.edit((j) => setGround(j, { edge: 'mirrored' }))
        editor.notice = { text: 'The camera is no longer kept on the map; beyond its edge the map is mirrored, in the whole film.' }
      },
    },
    {
      title: 'Come closer',
      run: () =>
        take(
          comeCloser(editor.journey!, shot),
          ({ zoom }) => `The camera is ${(zoom / shot.zoom).toFixed(1)} times as close, with the same tilt.`,
          'However close the camera comes, it cannot keep the traveller in the frame with this tilt.',
        ),
    },
  ]
  if (shot.pitch > 0)
    mends.unshift({
      title: 'Tilt less',
      run: () =>
        take(
          tiltedLess(editor.journey!, shot),
          ({ pitch }) => `The camera tilts by ${pitch}° instead of ${Math.round(shot.pitch)}°.`,
          'Less tilt alone does not keep the traveller in the frame.',
        ),
    })
  const straight = straightDown(shot)
  return equal(straight, shot) ? mends : [...mends, { title: 'Look straight down', run: () => put(straight) }]
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

const list = computed(() => props.checks.map((check) => ({ check, text: toldCheck(check, mapWidth.value), mends: mendsOf(check) })))
</script>

<template>
  <ul v-if="list.length > 0" class="checks" aria-label="Camera problems">
    <li v-for="{ check, text, mends } in list" :key="`${check.kind} ${check.from}`" :class="check.kind" data-testid="camera-check">
      <button type="button" class="link" @click="playback.goToTime(check.worstAt)">{{ text }}</button>
      <div class="mends">
        <v-btn v-for="{ title, run } in mends" :key="title" size="x-small" variant="outlined" @click="run()">{{ title }}</v-btn>
      </div>
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
  gap: 4px;
  padding-left: 8px;
  border-left: 3px solid var(--vermilion);
}
.soft {
  border-color: var(--brass);
}
.mends {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.link {
  text-align: left;
  cursor: pointer;
}
.link:hover {
  text-decoration: underline;
}
</style>
