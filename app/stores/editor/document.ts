import { computed, ref, shallowRef } from 'vue'
import { editReframed, reframed } from '#core/edits/camera/reframe'
import type { TimesFix } from '#core/edits/pace/film-length'
import { fixesOfTimes, withOwnLength } from '#core/edits/pace/film-length'
import { JourneyError } from '#core/error'
import type { Past } from '#core/journey/history'
import { keptPast, pastOf } from '#core/journey/history'
import { checkEdited } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { TimesError } from '#core/pace/schedule'

/** The number of undo steps kept. A step is a journey that shares all unchanged parts with its neighbours. */
const MOST_STEPS = 300

/**
 * The journey that is edited, with its past and future. Every change goes through `edit`.
 * @param tryOut throws JourneyError for a journey that makes no film
 */
export function useDocument(tryOut: (journey: Journey) => void) {
  /** The journey as it is stored; `journey` is what it is in the frame that is worked on. */
  const document = shallowRef<Journey>()
  /** Which of the journey's further frames is worked on; undefined is its own. */
  const reframe = ref<number>()
  const shownOf = (of: Journey): Journey => (reframe.value !== undefined && of.reframes[reframe.value] ? reframed(of, reframe.value) : of)
  const journey = computed(() => document.value && shownOf(document.value))
  /** Counts the journeys opened so far: tells one opening from the next. */
  const opening = ref(0)
  const past = shallowRef<readonly Journey[]>([])
  const future = shallowRef<readonly Journey[]>([])
  /** Why the last edit was refused, for as long as it is shown. */
  const refusal = ref('')
  /** What would make the times fit that the last edit was refused for. */
  const fixes = shallowRef<readonly TimesFix[]>([])
  let gesture: string | undefined

  function forgetRefusal() {
    refusal.value = ''
    // Each fix is a whole journey, made of the one that was refused: later it would bring back what has been changed since.
    if (fixes.value.length > 0) fixes.value = []
  }

  /** @param kept the stored undo steps */
  function open(opened: Journey, kept: Past = []) {
    document.value = opened
    reframe.value = undefined
    opening.value++
    past.value = pastOf(kept, opened)
    future.value = []
    gesture = undefined
    forgetRefusal()
  }

  /**
   * Changes the journey. An edit that would leave it without a film (times that do not fit, a value out of bounds) is refused, with the reason
   * in `refusal`, and nothing is lost. Edits of one gesture, such as a drag, are undone in one step; `endGesture` closes it.
   */
  function edit(change: (journey: Journey) => Journey, partOf?: string): boolean {
    const index = reframe.value
    return editDocument((all) => (index !== undefined && all.reframes[index] ? editReframed(all, index, change) : change(all)), partOf)
  }

  /** An edit of the journey as it is stored, whichever frame is worked on. */
  function editDocument(change: (journey: Journey) => Journey, partOf?: string): boolean {
    const before = document.value
    if (!before) return false
    let after: Journey
    let attempted: Journey | undefined
    try {
      attempted = change(before)
      if (attempted === before) return true
      after = withOwnLength(attempted)
      checkEdited(after)
      tryOut(shownOf(after))
    } catch (error) {
      if (!(error instanceof JourneyError)) throw error
      refusal.value = error.message
      fixes.value = error instanceof TimesError && attempted ? fixesOfTimes(attempted, before) : []
      return false
    }
    if (partOf === undefined || partOf !== gesture) past.value = [...past.value.slice(-MOST_STEPS + 1), before]
    gesture = partOf
    future.value = []
    document.value = after
    forgetRefusal()
    return true
  }

  /** Makes the refused edit after all, with times that fit. */
  function fix({ journey: mended }: TimesFix) {
    endGesture()
    editDocument(() => mended)
  }

  function endGesture() {
    gesture = undefined
  }

  function undo() {
    const last = past.value.at(-1)
    if (!last || !document.value) return
    future.value = [document.value, ...future.value]
    past.value = past.value.slice(0, -1)
    show(last)
  }

  function redo() {
    const [next, ...rest] = future.value
    if (!next || !document.value) return
    past.value = [...past.value, document.value]
    future.value = rest
    show(next)
  }

  function show(other: Journey) {
    endGesture()
    forgetRefusal()
    document.value = other
    if (reframe.value !== undefined && !other.reframes[reframe.value]) reframe.value = undefined
  }

  /** Works on the journey in one of its further frames, or in its own. */
  function workIn(index: number | undefined) {
    endGesture()
    reframe.value = index
  }

  return {
    document,
    reframe,
    journey,
    opening,
    refusal,
    fixes,
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => future.value.length > 0),
    keptPast: () => (document.value ? keptPast(past.value, document.value) : []),
    open,
    edit,
    editDocument,
    fix,
    endGesture,
    undo,
    redo,
    workIn,
  }
}
