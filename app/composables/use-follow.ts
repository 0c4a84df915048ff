import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import type { Rgb } from '#core/colour/srgb'
import type { Cubic } from '#core/geometry/cubic'
import { nearestOnChain } from '#core/geometry/nearest'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import type { Sheet } from '#core/journey/schema'
import { groundToSheet, sheetToGround, usedPart } from '#core/sheet/place'
import { isAbort, WorkerError } from '~/services/call-worker'
import { openFollower } from '~/services/follow'
import { useEditor } from '~/stores/editor'

/** A way that may be taken instead. */
interface Way {
  course: Cubic[]
  onRoad: number
}

/** The state of the search for a road. */
export type FollowState =
  | { kind: 'idle' }
  | { kind: 'looking'; share: number }
  | { kind: 'found'; course: Cubic[]; onRoad: number; gap: number; detour: number; other: Way | null; isDirect: boolean }
  | { kind: 'lost'; reason: string; at: Point | null }

/** Finds the road visible on the map between two ground points, by way of the clicked spots. */
export function useFollow() {
  const editor = useEditor()
  const ends = shallowRef<readonly [Point, Point]>()
  const vias = shallowRef<readonly Point[]>([])
  /** The colour of the road: chosen, or detected. */
  const colour = shallowRef<Rgb | null>(null)
  const isChosen = ref(false)
  const state = shallowRef<FollowState>({ kind: 'idle' })
  const follower = openFollower()

  const through = computed(() => (ends.value ? [ends.value[0], ...vias.value, ends.value[1]] : []))

  /** The uppermost sheet on which all the spots lie. */
  function sheetUnder(points: readonly Point[]): Sheet | undefined {
    const holds = (sheet: Sheet) => {
      const { left, top, right, bottom } = usedPart(sheet)
      return points.every((p) => {
        const { x, y } = groundToSheet(sheet.place, p)
        return x >= left && x < right && y >= top && y < bottom
      })
    }
    return editor.journey!.sheets.findLast(holds)
  }

  function stop() {
    follower.close()
    if (state.value.kind === 'looking') state.value = { kind: 'idle' }
  }

  function clear() {
    stop()
    ends.value = undefined
    vias.value = []
    state.value = { kind: 'idle' }
  }

  const lost = (reason: string) => (state.value = { kind: 'lost', reason, at: null })

  async function look() {
    stop()
    const sheet = sheetUnder(through.value)
    if (!ends.value) return
    if (!sheet) return void lost('No single map lies under both ends, so there is no road to follow.')
    state.value = { kind: 'looking', share: 0 }
    const { image, width, height, place } = sheet
    const spots = through.value.map((p) => groundToSheet(place, p))
    try {
      const followed = await follower.call(
        'way',
        { image, width, height, through: spots, colour: isChosen.value ? colour.value : null },
        { onProgress: (share) => (state.value = { kind: 'looking', share }) },
      )
      if (!isChosen.value) colour.value = followed.colour
      if (followed.found) {
        const onGround = ([a, b, c, d]: Cubic) =>
          [sheetToGround(place, a), sheetToGround(place, b), sheetToGround(place, c), sheetToGround(place, d)] as const
        const { course, onRoad, gap, detour, direct } = followed
        const other = direct && { course: direct.course.map(onGround), onRoad: direct.onRoad }
        state.value = { kind: 'found', course: course.map(onGround), onRoad, gap, detour, other, isDirect: false }
      } else state.value = { kind: 'lost', reason: followed.reason, at: followed.at && sheetToGround(place, followed.at) }
    } catch (error) {
      if (isAbort(error)) return
      if (!(error instanceof WorkerError)) throw error
      lost(error.message)
    }
  }

  /** Exchanges the way that was found for the more direct one, or back. */
  function takeOther() {
    const found = state.value
    if (found.kind !== 'found' || !found.other) return
    const { course, onRoad, other, isDirect } = found
    state.value = { ...found, ...other, other: { course, onRoad }, isDirect: !isDirect }
  }

  /** Begins a search between two ground points. */
  function begin(from: Point, to: Point) {
    clear()
    ends.value = [from, to]
    void look()
  }

  /** Adds a spot to the way, between the spots that it lies between along it. */
  function addVia(p: Point) {
    const spots = through.value
    const course = state.value.kind === 'found' ? state.value.course : undefined
    const along = (q: Point) => {
      if (!course) return 0
      const { segment, u } = nearestOnChain(course, q)
      return segment + u
    }
    let at = vias.value.length
    if (course) at = vias.value.filter((via) => along(via) < along(p)).length
    else {
      // Without a way it is inserted where the detour is the shortest.
      const detour = (i: number) => distance(spots[i]!, p) + distance(p, spots[i + 1]!) - distance(spots[i]!, spots[i + 1]!)
      for (let i = 0; i < spots.length - 1; i++) if (detour(i) < detour(at)) at = i
    }
    vias.value = [...vias.value.slice(0, at), p, ...vias.value.slice(at)]
    void look()
  }

  function moveVia(i: number, p: Point) {
    vias.value = vias.value.map((via, k) => (k === i ? p : via))
  }

  function removeVia(i: number) {
    vias.value = vias.value.filter((_, k) => k !== i)
    void look()
  }

  /** Picks the colour of the road from a spot of the map. */
  async function pick(p: Point) {
    stop()
    const sheet = sheetUnder([p])
    if (!sheet) return void lost('There is no map here to pick a colour from.')
    const { image, width, height, place } = sheet
    try {
      colour.value = await follower.call('colour', { image, width, height, at: groundToSheet(place, p) })
      isChosen.value = true
      void look()
    } catch (error) {
      if (isAbort(error)) return
      if (!(error instanceof WorkerError)) throw error
      lost(error.message)
    }
  }

  /** Goes back to detecting the colour. */
  function forgetColour() {
    isChosen.value = false
    colour.value = null
    void look()
  }

  onScopeDispose(stop)

  return { ends, vias, colour, isChosen, state, begin, look, takeOther, clear, stop, addVia, moveVia, removeVia, pick, forgetColour }
}
