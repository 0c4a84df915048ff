import { remembered } from '../../remembered'
import equal from 'fast-deep-equal'
import { keptInView } from '../../camera/fit'
import { projectionOf } from '../../camera/projection'
import type { View } from '../../camera/view'
import { referenceSize } from '../../camera/view'
import type { Size } from '../../geometry/size'
import { coversFrame, heldIn } from '../../sheet/framing'
import type { Journey, Reframe, Shot } from '../../journey/schema'
import { reframeSchema } from '../../journey/schema'
import { isOfPlan, zoomedShot } from './shots'

/** The same journey in frames of several shapes, side by side in one document: what is laid out for one shape only is kept with that, all else is common. */

export const addReframe = (journey: Journey, { width, height }: Size): Journey => ({
  ...journey,
  reframes: [...journey.reframes, reframeSchema.parse({ width, height })],
})

export const removeReframe = (journey: Journey, index: number): Journey => ({
  ...journey,
  reframes: journey.reframes.filter((_, i) => i !== index),
})

/** Whether two frames have the same shape, to a hundredth: sizes in pixels are rounded to even numbers. */
export const isSameShape = (a: Size, b: Size): boolean => Math.abs((a.width * b.height) / (a.height * b.width) - 1) < 0.01

const inFrames = remembered((journey: Journey) => {
  const made: Journey[] = []
  return (index: number) => (made[index] ??= inFrame(journey, journey.reframes[index]!))
})

/** The journey as it is in one of its further frames; the same object for the same journey. */
export const reframed = (journey: Journey, index: number): Journey => inFrames(journey)(index)

function inFrame(journey: Journey, reframe: Reframe): Journey {
  const { width, height } = reframe
  const shots = new Map(reframe.shots.map((shot) => [shot.id, shot]))
  const labels = new Map(reframe.labels.map(({ of, place }) => [of, place]))
  const cards = new Map(reframe.cards.map(({ stop, card, place, size }) => [`${stop} ${card}`, { place, size }]))
  const corners = new Map(reframe.captions.map(({ caption, corner }) => [caption, corner]))
  const labelled = <T extends Pick<Journey['stops'][number], 'id' | 'label'>>(marked: T): T => {
    const place = labels.get(marked.id)
    return place ? { ...marked, label: { ...marked.label, place } } : marked
  }
  const inJourney = new Set(journey.shots.map(({ id }) => id))
  return {
    ...journey,
    frame: { ...journey.frame, width, height },
    camera: reframe.camera ?? reframedView(journey, journey.camera, reframe),
    shots: [
      ...journey.shots.map((shot) => {
        const own = shots.get(shot.id)
        return own ? timedAs(own, shot) : reframedShot(journey, shot, reframe)
      }),
      // A shot of the plan that is aimed otherwise in this shape alone.
      ...reframe.shots.filter(({ id }) => isOfPlan(id) && !inJourney.has(id)),
    ],
    stops: journey.stops.map((stop) => {
      const moved = stop.postcards.map((card) => ({ ...card, ...cards.get(`${stop.id} ${card.id}`) }))
      const isMoved = stop.postcards.some((card) => cards.has(`${stop.id} ${card.id}`))
      return labelled(isMoved ? { ...stop, postcards: moved } : stop)
    }),
    landmarks: journey.landmarks.map((landmark) => (landmark.kind === 'mark' ? labelled(landmark) : landmark)),
    captions: journey.captions.map((caption) => {
      const corner = corners.get(caption.id)
      return corner ? { ...caption, corner } : caption
    }),
  }
}

const timedAs = (shot: Shot, { at, transition, easing }: Shot): Shot => ({ ...shot, at, transition, easing })

/** How much closer a view in another frame must be to show as much of the ground. */
function areaFactor({ frame }: Journey, to: Size): number {
  const [a, b] = [referenceSize(frame), referenceSize(to)]
  return Math.sqrt((b.width * b.height) / (a.width * a.height))
}

/** The part of the frame in which stops stay that were seen: names and pins need the rest. */
const SEEN = 0.84

/**
 * A view of as much of the ground about the same middle. The stops that were seen are seen again, unless that would show what is beyond the map, where one
 * did not see it before and it would be bare.
 */
function reframedView(journey: Journey, view: View, to: Size): View {
  const [before, after] = [referenceSize(journey.frame), referenceSize(to)]
  const { toScreen } = projectionOf(view, before)
  const stops = journey.stops.flatMap(({ at }) => {
    const { x, y } = toScreen(at)
    return x >= 0 && y >= 0 && x <= before.width && y <= before.height ? [at] : []
  })
  const next = { ...view, zoom: view.zoom * areaFactor(journey, to) }
  const seen = stops.length > 0 ? keptInView(next, stops, after, SEEN) : next
  const sheet = journey.sheets.find(({ tracing }) => !tracing)
  const isBare = journey.ground.edge === 'plain' || journey.ground.edge === 'held'
  return sheet && isBare && coversFrame(sheet, view, before) ? heldIn(sheet, seen, after) : seen
}

function reframedShot(journey: Journey, shot: Shot, to: Size): Shot {
  if ('view' in shot) return { ...shot, view: reframedView(journey, shot.view, to) }
  return 'fill' in shot ? shot : zoomedShot(shot, areaFactor(journey, to))
}

/**
 * Makes an edit to the journey as it is in one of its further frames. Where the camera looks, and where labels, cards, titles and readouts are, is kept
 * with that frame; everything else is changed for all.
 */
export function editReframed(journey: Journey, index: number, change: (journey: Journey) => Journey): Journey {
  const shown = reframed(journey, index)
  const after = change(shown)
  if (after === shown) return journey
  const base = change(journey)
  // Changes of the maps and of the list of frames itself are the same for all.
  if (after.sheets !== shown.sheets || base.reframes !== journey.reframes) return base
  const own = journey.reframes[index]!
  const put = (journeyNow: Journey, patch: Partial<Reframe>): Journey => ({
    ...journeyNow,
    reframes: journey.reframes.map((reframe, i) => (i === index ? { ...own, ...patch } : reframe)),
  })
  const { width, height, rate } = after.frame
  if (width !== shown.frame.width || height !== shown.frame.height)
    return put({ ...journey, frame: { ...journey.frame, rate } }, { width, height })
  return put(
    {
      ...base,
      frame: { ...journey.frame, rate },
      camera: journey.camera,
      shots: commonShots(journey, base, shown, after, own),
      stops: base.stops.map((stop) => withPlacesOf(stop, journey.stops)),
      landmarks: base.landmarks.map((landmark) => {
        const before = journey.landmarks.find(({ id }) => id === landmark.id)
        return landmark.kind === 'mark' && before?.kind === 'mark' ? withLabelPlace(landmark, before) : landmark
      }),
      captions: base.captions.map((caption) => {
        const before = journey.captions.find(({ id }) => id === caption.id)
        return before && before.corner !== caption.corner ? { ...caption, corner: before.corner } : caption
      }),
    },
    ownOf(own, shown, after),
  )
}

/** The shots that all shapes share: in them only when they are has changed; new ones look as they do in this shape. */
function commonShots(journey: Journey, base: Journey, shown: Journey, after: Journey, to: Size): Shot[] {
  const before = new Map(journey.shots.map((shot) => [shot.id, shot]))
  const wasShown = new Set(shown.shots.map(({ id }) => id))
  return base.shots.flatMap((shot) => {
    const was = before.get(shot.id)
    const now = after.shots.find(({ id }) => id === shot.id)
    if (was) return [now ? { ...was, at: now.at, transition: now.transition, easing: now.easing } : was]
    if (isOfPlan(shot.id) || wasShown.has(shot.id)) return []
    return ['fill' in shot ? shot : zoomedShot(shot, 1 / areaFactor(journey, to))]
  })
}

/** A stop with its label and its cards where they were. */
function withPlacesOf(stop: Journey['stops'][number], before: Journey['stops']): Journey['stops'][number] {
  const was = before.find(({ id }) => id === stop.id)
  if (!was || was === stop) return stop
  const cards = stop.postcards.map((card) => {
    const old = was.postcards.find(({ id }) => id === card.id)
    return old && old !== card ? { ...card, place: old.place, size: old.size } : card
  })
  return { ...withLabelPlace(stop, was), postcards: cards }
}

const withLabelPlace = <T extends Pick<Journey['stops'][number], 'label'>>(marked: T, was: T): T =>
  marked.label.place === was.label.place ? marked : { ...marked, label: { ...marked.label, place: was.label.place } }

/** What of a frame is its own after an edit: what it was, and what the edit has changed. */
function ownOf(own: Reframe, shown: Journey, after: Journey): Partial<Reframe> {
  const marks = (journey: Journey) => [...journey.stops, ...journey.landmarks.filter((landmark) => landmark.kind === 'mark')]
  const cardsOf = ({ stops }: Journey) => stops.flatMap((stop) => stop.postcards.map((card) => ({ stop: stop.id, card: card.id, place: card.place, size: card.size }))) // prettier-ignore
  const shots = new Set(after.shots.map(({ id }) => id))
  return {
    camera: after.camera === shown.camera ? own.camera : after.camera,
    shots: merged(
      own.shots,
      shown.shots,
      after.shots,
      ({ id }) => id,
      isAimedAlike,
      ({ id }) => isOfPlan(id),
    ).filter(({ id }) => shots.has(id)),
    labels: merged(own.labels, marks(shown).map(labelOf), marks(after).map(labelOf), ({ of }) => of),
    cards: merged(own.cards, cardsOf(shown), cardsOf(after), ({ stop, card }) => `${stop} ${card}`),
    captions: merged(own.captions, shown.captions.map(cornerOf), after.captions.map(cornerOf), ({ caption }) => caption),
  }
}

const labelOf = ({ id, label }: Pick<Journey['stops'][number], 'id' | 'label'>) => ({ of: id, place: label.place })
const cornerOf = ({ id, corner }: Journey['captions'][number]) => ({ caption: id, corner })

/** Whether two shots look at the same thing in the same way, whenever that is. */
const isAimedAlike = (a: Shot, b: Shot): boolean => equal(timedAs(a, b), b)

/** A list of what is a frame's own, with what is there before and after an edit and has changed between. @param takesNew whether what was not there before is one's own */
function merged<T>(
  own: readonly T[],
  before: readonly T[],
  after: readonly T[],
  key: (entry: T) => string,
  alike: (a: T, b: T) => boolean = equal,
  takesNew: (entry: T) => boolean = () => false,
): T[] {
  const old = new Map(before.map((entry) => [key(entry), entry]))
  const changed = after.filter((entry) => {
    const was = old.get(key(entry))
    return was === undefined ? takesNew(entry) : was !== entry && !alike(was, entry)
  })
  const isNew = new Set(changed.map(key))
  return [...own.filter((entry) => !isNew.has(key(entry))), ...changed]
}
