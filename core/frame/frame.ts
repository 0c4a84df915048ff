import type { Size } from '../geometry/size'
import type { Sun } from '../camera/sun'
import type { View } from '../camera/view'
import type { Course } from '../geometry/course'
import type { Box } from '../geometry/box'
import type { Point } from '../geometry/point'
import type {
  Appears,
  Area,
  Carried,
  Depth,
  Ground,
  Ink,
  Pin,
  Postcard,
  Sheet,
  Sky,
  Planned,
  StandingPicture,
  TextStyle,
  Wash,
} from '../journey/schema'
import type { Vehicle } from '../dress/vehicle'
import type { CaptionItem } from '../labels/captions'
import type { CardPose } from '../marks/card-times'
import type { CompiledLabel } from '../trips/compiled'
import type { CircleState } from '../marks/pins'
import type { Motion } from '../trips/motion'
import type { TextBlock } from '../type/block'
import type { Particle } from './particles'

/** What one frame shows: plain data, items in back-to-front order, places in ground units, sizes in reference pixels. */
export interface Frame {
  time: number
  /** Output size in pixels, and output pixels per reference pixel. */
  size: Size
  scale: number
  /** The frame's size in reference pixels. */
  reference: Size
  view: View
  /** Whether the view is another one at every frame, so that nothing painted can be kept for the next. */
  isMoving: boolean
  /** The light in which things cast their shadows. */
  sun: Sun | null
  items: FrameItem[]
  /** Where each traveller is; undefined before it appears. */
  motions: (Motion | undefined)[]
}

export type FrameItem =
  | GroundItem
  | SheetItem
  | AreaItem
  | EdgeShadeItem
  | MapDimItem
  | DepthItem
  | AirItem
  | MapNameItem
  | PlannedItem
  | ParticlesItem
  | InkItem
  | PinItem
  | StandingItem
  | VehicleItem
  | CarriedItem
  | LabelItem
  | DimItem
  | PostcardItem
  | CaptionItem
  | CreditItem

/** Whether each kind of item is part of the ground: these are the lowest, and look the same as long as the view rests. */
export const IS_GROUND = {
  ground: true,
  sheet: true,
  area: true,
  'edge-shade': true,
  'map-dim': true,
  depth: true,
  air: true,
  'map-name': false,
  planned: false,
  ink: false,
  particles: false,
  pin: false,
  standing: false,
  vehicle: false,
  carried: false,
  label: false,
  dim: false,
  postcard: false,
  caption: false,
  credit: false,
} as const satisfies Record<FrameItem['kind'], boolean>

/** Soft focus and haze over the ground, where the camera is tilted. */
export interface DepthItem {
  kind: 'depth'
  /** `at` is how far away what is in focus is, as a multiple of the distance of the frame's middle. */
  softFocus: { strength: number; far: number; near: number; at: number } | null
  haze: NonNullable<Depth['haze']> | null
}

/** The background; always the lowest item. */
export interface GroundItem {
  kind: 'ground'
  ground: Ground
}

/** The sky round a globe, which covers what of the ground would be seen there, and the air and the clouds over it. */
export interface AirItem {
  kind: 'air'
  sky: Sky
  /** How far the clouds have drifted to the east, in degrees. */
  drift: number
}

/** The name of a country or a sea, in the middle of its place: it stands upright, as names of stops do. */
export interface MapNameItem {
  kind: 'map-name'
  id: string
  at: Point
  block: TextBlock
  style: TextStyle
  scale: number
  opacity: number
}

export interface SheetItem {
  kind: 'sheet'
  sheet: Sheet
  opacity: number
  /** How the sheet goes on beyond its edges. */
  edge: Ground['edge']
  /** The shadow and border of a sheet that is shown as a panel. */
  panel: Ground['panel'] | null
}

export interface AreaItem {
  kind: 'area'
  area: Area
  opacity: number
}

/** Darkens the sheets, and nothing else. */
export interface MapDimItem {
  kind: 'map-dim'
  opacity: number
}

/** Darkens the frame's edges, above the sheets and below all else. */
export interface EdgeShadeItem {
  kind: 'edge-shade'
  shade: NonNullable<Wash['edgeShade']>
  /** The share of it that is seen. */
  opacity: number
}

export interface InkItem {
  kind: 'ink'
  leg: string
  /** Which of the leg's lines it is: 0 is the lowest. */
  layer: number
  course: Course
  /** The ink runs between these lengths of the course. */
  tail: number
  head: number
  /** Up to which length pieces of a pattern have come; beyond the head once that rests, so that the last ones can settle. */
  front: number
  /** The zoom at which its pattern is measured on the ground, and by how much that is moved along the course, in ground units. */
  patternZoom: number
  phase: number
  opacity: number
  /** How strong its glow is at the moment, 0 to 1, and at which length a bright spot of it is. */
  light: number
  spark: number | null
  /** Whether its head is on the way. */
  leads: boolean
  ink: Ink
}

/** The part of a course that is still to be travelled. */
export interface PlannedItem {
  kind: 'planned'
  leg: string
  layer: number
  course: Course
  from: number
  patternZoom: number
  planned: Planned
}

/** Sparks or dust along a line. */
export interface ParticlesItem {
  kind: 'particles'
  leg: string
  layer: number
  colour: string
  seen: readonly Particle[]
}

/** A picture that stands on the ground. */
export interface StandingItem {
  kind: 'standing'
  id: string
  at: Point
  picture: StandingPicture
  opacity: number
}

export interface PinItem {
  kind: 'pin'
  /** The stop, or the mark beside the way, that it stands at; so with labels. */
  stop: string
  at: Point
  pin: Pin
  /** What is written in its face; '' for nothing. */
  inside: string
  circle: CircleState | null
  scale: number
  /** How far above its place it is while it drops, in its heights. */
  raised: number
  opacity: number
}

export interface LabelItem {
  kind: 'label'
  stop: string
  at: Point
  label: CompiledLabel
  style: TextStyle
  appears: Appears
  /** Its size, as a share of what is set. */
  scale: number
  /** Seconds since it began to appear; null once it has settled. */
  elapsed: number | null
  /** 0 where it would be cut by the frame. */
  opacity: number
  /** The label as it is without a frame that it must stay in: on the table. */
  free: { label: CompiledLabel; opacity: number }
}

/** Darkens all that is below it: the map, while a card is looked at. */
export interface DimItem {
  kind: 'dim'
  opacity: number
}

export interface PostcardItem extends CardPose {
  kind: 'postcard'
  stop: string
  at: Point
  postcard: Postcard
  pin: Pin
  /** What it keeps off beside its pin, about its stop, in reference pixels. */
  clearOf: Box
}

export interface VehicleItem {
  kind: 'vehicle'
  leg: string
  /** Whether it is giving way to another one on the same leg. */
  isGoing: boolean
  at: Point
  vehicle: Vehicle
  scale: number
  /** How far it is lifted from its line, in its lengths, and how far its wheels have turned: see Liveliness. */
  rise: number
  wheels: number | null
  /** Whether it lies on the ground, and turns on it, rather than stand upright in the frame. */
  lies: boolean
  rotation: number
  mirrored: boolean
  opacity: number
  altitude: number
}

/** What a vehicle carries: it stands upright over the vehicle. */
export interface CarriedItem {
  kind: 'carried'
  leg: string
  isGoing: boolean
  at: Point
  carried: Carried
  /** Where it begins, in reference pixels above the vehicle's place. */
  foot: number
  scale: number
  opacity: number
}

/** A line at the frame's lower right that names the sources. */
export interface CreditItem {
  kind: 'credit'
  text: string
  opacity: number
}

/** What an item is called: the same thing in two frames has the same name. */
export function itemName(item: FrameItem): string {
  if (item.kind === 'postcard') return `postcard ${item.stop} ${item.postcard.id}`
  if ('isGoing' in item) return `${item.kind} ${item.leg} ${item.isGoing ? 'going' : ''}`
  if ('layer' in item) return `${item.kind} ${item.leg} ${item.layer}`
  if ('stop' in item) return `${item.kind} ${item.stop}`
  if ('id' in item) return `${item.kind} ${item.id}`
  // While a wash changes, a sheet is seen with it over itself without it.
  if (item.kind === 'sheet') return `sheet ${item.sheet.id} ${item.sheet.wash ? 'washed' : ''}`
  return item.kind === 'area' ? `area ${item.area.id}` : item.kind
}
