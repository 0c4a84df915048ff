import type { Size, View } from '../camera/view'
import type { Course } from '../geometry/course'
import type { Point } from '../geometry/point'
import type { Ink, Label, Pin, VehicleChoice, Wash } from '../journey/schema'
import type { LabelPlace } from './marks'
import type { Motion } from './motion'

/** What is to be seen at one moment: plain data, items in back-to-front order, places in ground units, sizes in reference pixels. */
export interface Frame {
  time: number
  /** Output size in pixels, and output pixels per reference pixel. */
  size: Size
  scale: number
  /** The frame's size in reference pixels. */
  reference: Size
  view: View
  ground: string
  items: FrameItem[]
  /** Where each traveller is; undefined before it appears. */
  motions: (Motion | undefined)[]
}

export type FrameItem = SheetItem | EdgeShadeItem | InkItem | PinItem | VehicleItem | LabelItem

export interface SheetItem {
  kind: 'sheet'
  /** Content hash of the image; it covers the ground from 0, 0 to width, height. */
  image: string
  width: number
  height: number
  wash: Wash | null
}

/** Darkens the frame's edges, above the sheets and below all else. */
export interface EdgeShadeItem {
  kind: 'edge-shade'
  shade: NonNullable<Wash['edgeShade']>
}

export interface InkItem {
  kind: 'ink'
  leg: string
  course: Course
  /** The ink runs from length 0 to here. */
  head: number
  ink: Ink
}

export interface PinItem {
  kind: 'pin'
  stop: string
  at: Point
  pin: Pin
  scale: number
  opacity: number
}

export interface LabelItem {
  kind: 'label'
  stop: string
  at: Point
  text: string
  label: Label
  place: LabelPlace
  scale: number
  opacity: number
}

export interface VehicleItem {
  kind: 'vehicle'
  leg: string
  at: Point
  vehicle: VehicleChoice
  rotation: number
  mirrored: boolean
  opacity: number
  altitude: number
}
