import type { Frame, FrameItem } from '../frame/frame'
import { withoutGround } from '../frame/frame-at'
import { creditLine } from '../sheet/credits'
import type { CompiledJourney } from '../trips/compiled'
import { inksOf } from '../journey/lookup'
import type { Layer } from '../journey/schema'
import { LAYERS } from '../journey/schema'

/** The passes of a film: parts of its picture that are films of their own, so that an editor grades, blurs or leaves out each. The layers, and what is below and above them. */
const PASSES = ['ground', ...LAYERS, 'titles'] as const
export type Pass = (typeof PASSES)[number]

/** What a film shows: the whole picture, all but the ground, or one pass. */
export const SHOWN = ['all', 'over', ...PASSES] as const
export type Shown = (typeof SHOWN)[number]

const PASS_OF: Readonly<Record<FrameItem['kind'], Pass>> = {
  ground: 'ground',
  sheet: 'ground',
  area: 'ground',
  'edge-shade': 'ground',
  'map-dim': 'ground',
  depth: 'ground',
  air: 'ground',
  'map-name': 'ground',
  planned: 'lines',
  ink: 'lines',
  particles: 'lines',
  pin: 'marks',
  standing: 'marks',
  vehicle: 'vehicles',
  carried: 'vehicles',
  label: 'labels',
  dim: 'cards',
  postcard: 'cards',
  caption: 'titles',
  credit: 'titles',
}

/** Whether a film has its ground, so that nothing of it is transparent. */
export const isOpaque = (shows: Shown): boolean => shows === 'all' || shows === 'ground'

/** Whether a film is one part of the picture among others, which is graded when they are laid over one another. */
export const isPass = (shows: Shown): shows is Pass => shows !== 'all' && shows !== 'over'

/** A frame of a film that shows only part of it. */
export function frameOf(frame: Frame, shows: Shown): Frame {
  if (shows === 'all') return frame
  if (shows === 'over') return withoutGround(frame)
  return { ...frame, items: frame.items.filter(({ kind }) => PASS_OF[kind] === shows) }
}

/**
 * The passes of a journey, from the lowest to the uppermost: laid over one another they are its film. Those in which nothing can ever be seen are left out; the ground
 * is always one.
 */
export function passesOf(compiled: CompiledJourney): Pass[] {
  const { journey, marks, standing, captions } = compiled
  const travellers = compiled.travellers.filter(({ traveller }) => traveller.shown)
  const legs = travellers.flatMap((traveller) => traveller.legs)
  const has: Readonly<Record<Layer, boolean>> = {
    lines: legs.some(({ leg }) => inksOf(leg).some((ink) => ink.line.kind !== 'hidden' || ink.planned || ink.particles)),
    marks: standing.length > 0 || marks.some(({ stop }) => stop.pin.shape !== 'none'),
    vehicles: legs.some(({ rides }) => rides.some(({ vehicle }) => vehicle)),
    labels: marks.some(({ label }) => label),
    cards: marks.some(({ postcards }) => postcards.length > 0),
  }
  const hasTitles = captions.length > 0 || (journey.creditLine && creditLine(journey) !== '')
  return ['ground', ...journey.order.filter((layer) => has[layer]), ...(hasTitles ? (['titles'] as const) : [])]
}

/** The films that are made where each pass is one: their settings, and what tells them apart, such as "2 lines". The sound is with the ground. */
export function passFilms<S extends { shows: Shown; sound: boolean }>(
  compiled: CompiledJourney,
  settings: S,
): { settings: S; part: string }[] {
  return passesOf(compiled).map((shows, i) => ({
    settings: { ...settings, shows, sound: settings.sound && shows === 'ground' },
    part: `${i + 1} ${shows}`,
  }))
}
