import { clamp } from '#core/geometry/clamp'
import { watchDebounced } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { filmedAt, projectionAt, viewAt } from '#core/camera/view-track'
import type { View } from '#core/camera/view'
import { GREATEST_PITCH, GREATEST_ZOOM, LEAST_ZOOM, withoutBend } from '#core/camera/view'
import { addShot, backToPlan, putShot, reaimedShot, setCamera } from '#core/edits/camera/shots'
import type { CameraCheck } from '#core/checks/camera-check'
import { checkCamera } from '#core/checks/camera-check'
import { momentAt } from '#core/trips/span'
import { wrapDegrees } from '#core/geometry/angle'
import type { Journey, Shot, ShotKind } from '#core/journey/schema'
import { shotOfKind, shotSchema } from '#core/journey/schema'
import { nameOfShot } from '~/components/camera/shot-names'
import { useEditor } from './editor'
import { usePlayback } from './playback'

/** How long the camera takes to a new shot, in seconds. */
const TRANSITION = 2

/** The camera at the play position: the shot in force there, and how it is changed. */
export const useCamera = defineStore('camera', () => {
  const editor = useEditor()
  const playback = usePlayback()

  /** What the film shows at the play position. */
  const view = computed<View>(() => viewAt(editor.compiled!, playback.time))
  /** The view that is filmed there, which sways where the camera is held by hand, and its projection. */
  const filmed = computed<View>(() => filmedAt(editor.compiled!, playback.time))
  const projection = computed(() => projectionAt(editor.compiled!, playback.time))

  /** The shot that is in force at the play position; undefined during the opening view. */
  const shot = computed(() => editor.compiled?.shots.findLast(({ start }) => start <= playback.time + 1e-9))

  /** Problems with what the camera shows; looked for when edits pause, as the whole film must be looked through. */
  const checks = shallowRef<readonly CameraCheck[]>([])
  watchDebounced(() => editor.compiled, (compiled) => (checks.value = compiled && compiled.travellers.some(({ visits }) => visits.length > 0) ? checkCamera(compiled) : []), { debounce: 250, maxWait: 1500, immediate: true }) // prettier-ignore

  /** Goes to the end of the way to a shot, so that what is changed can be seen. */
  function arrive() {
    if (shot.value && playback.time < shot.value.end) playback.goToTime(shot.value.end)
  }

  /** Changes the shot in force, in the document: it shows what the change makes of what is seen. What is changed is said, as more of the film may be than is seen. */
  function look(change: (view: View) => View, gesture?: string): boolean {
    arrive()
    const { value: now } = shot
    const { journey: begun, opening } = editor
    if (!now) {
      const done = editor.edit((journey) => setCamera(journey, bounded(change(journey.camera))), gesture)
      if (done && playback.time > 0) tell('the opening view', editor.compiled!.shots[0]?.start, gesture, (j) => setCamera(j, begun!.camera))
      return done
    }
    const before = now.shot.kind === 'free' && now.shot.orbit === 0 && now.shot.dolly === null ? now.shot.view : view.value
    const next = reaimedShot(now.shot, before, bounded(change(before)), editor.compiled!.reference)
    const done = editor.edit((journey) => putShot(journey, next), gesture)
    const { id } = now.shot
    const isKnown = known.has(`${opening} ${id}`) || (editor.selection.kind === 'shot' && editor.selection.id === id)
    if (done && !isKnown)
      tell(`“${nameOfShot(begun!, now.shot)}”`, now.until, gesture, (j) => (now.isPlanned ? backToPlan(j, id) : putShot(j, now.shot)))
    known.add(`${opening} ${id}`)
    return done
  }

  /** The shots of which it has been said that they are changed, each once. */
  const known = new Set<string>()
  /** The gesture of which it is being told, and how what it changes is put back. */
  let telling: { gesture: string; back: (journey: Journey) => Journey } | undefined

  /** Says what a gesture changes, and offers to have it from here on instead. @param until when what it changes is over; the film's end if left out */
  function tell(what: string, until: number | undefined, gesture: string | undefined, back: (journey: Journey) => Journey) {
    // Of a gesture that goes on, what was before its beginning is put back.
    if (gesture === undefined || telling?.gesture !== gesture || !editor.notice) telling = { gesture: gesture ?? '', back }
    const { back: putBack } = telling
    const whole = until === undefined || until >= editor.compiled!.lastTime
    const { time } = playback
    editor.notice = {
      text: `This changes ${what}, which lasts ${whole ? 'to the film’s end' : `up to ${until.toFixed(1)} s`}.`,
      action: {
        title: 'Only from here on',
        run() {
          playback.goToTime(time)
          addFrom(view.value, putBack)
        },
      },
    }
  }

  /** Shows something from the play position on, as a shot of its own; shots that are there stay as they are. */
  function show(next: View) {
    if (shot.value || playback.time > 0) addFrom(next, (journey) => journey)
    else look(() => next)
  }

  /** Adds a shot of a view from the play position on, to which the camera gets just in time, and selects it. @param back what else is changed in the same step */
  function addFrom(next: View, back: (journey: Journey) => Journey) {
    const transition = Math.min(TRANSITION, playback.time)
    const at = momentOf(playback.time - transition)
    const made = shotSchema.parse({ kind: 'free', id: nanoid(10), at, transition, view: bounded(withoutBend(next)) })
    if (editor.edit((journey) => addShot(back(journey), made))) editor.select({ kind: 'shot', id: made.id })
  }

  /** The moment that ties a time of the film, in seconds, to the trip. */
  const momentOf = (time: number) =>
    momentAt(
      time,
      editor
        .compiled!.marks.filter(({ isStop }) => isStop)
        .map(({ stop, arrive: reached, leave }) => ({ stop: stop.id, arrive: reached, leave })),
    )

  /** Keeps what is seen at the play position from there on, as a shot of its own, which is selected; the camera gets there just in time. */
  function keep() {
    if (playback.time === 0) editor.select({ kind: 'shot' })
    else addFrom(view.value, (journey) => journey)
  }

  /** What a leg view and a close-up at the play position are of: the leg that is travelled, and the stop that is reached or was left last. */
  function subject(): { leg?: string; stop?: string } {
    const { time } = playback
    const trip = editor.itinerary
    const leg = trip?.legs.find(({ arrive: end }) => time < end) ?? trip?.legs.at(-1)
    const visit = trip?.visits.findLast(({ arrive: start }) => start <= time + 1e-9) ?? trip?.visits[0]
    return { ...(leg && { leg: leg.leg.id }), ...(visit && { stop: visit.stop.id }) }
  }

  /** A shot as one of another kind, as it would be at the play position. */
  const asKind = (of: Shot, kind: ShotKind): Shot | undefined =>
    shotOfKind(of, kind, { seen: bounded(withoutBend(view.value)), ...subject() })

  /** Adds a shot that begins at the play position, and selects it. */
  function begin(kind: ShotKind) {
    const transition = playback.time === 0 ? 0 : TRANSITION
    const free = shotSchema.parse({
      kind: 'free',
      id: nanoid(10),
      at: momentOf(playback.time),
      transition,
      view: bounded(withoutBend(view.value)),
    })
    const made = asKind(free, kind)
    if (made) add(made)
  }

  function add(made: Shot) {
    if (editor.edit((journey) => addShot(journey, made))) editor.select({ kind: 'shot', id: made.id })
  }

  return { view, filmed, projection, shot, checks, look, show, momentOf, keep, begin, asKind }
})

const bounded = (view: View): View => ({
  centre: view.centre,
  // A whole globe may be seen from further away than any flat map.
  zoom: view.bend ? view.zoom : clamp(view.zoom, LEAST_ZOOM, GREATEST_ZOOM),
  bearing: wrapDegrees(view.bearing),
  pitch: clamp(view.pitch, 0, GREATEST_PITCH),
})
