import type { Size } from '../geometry/size'
import type { Point } from '../geometry/point'
import type { Bend } from './globe'

/**
 * What the camera sees: the ground point at the middle of the frame, the zoom there in reference pixels per ground unit, the bearing, which is the
 * direction that is up in the frame, in degrees clockwise from the map's own up, and the pitch: 0 looks straight down, more looks ahead.
 */
export interface View {
  centre: Point
  zoom: number
  bearing: number
  pitch: number
  /** How far the ground is bent to a globe; not at all where there is none. */
  bend?: Bend
}

/** A view straight down, with the map upright. */
export const flatView = (centre: Point, zoom: number): View => ({ centre, zoom, bearing: 0, pitch: 0 })

/** What of a view a document keeps: the view of the flat map. */
export const withoutBend = ({ centre, zoom, bearing, pitch }: View): View => ({ centre, zoom, bearing, pitch })

/** The bounds of a view: at the greatest pitch the horizon still lies above the frame. */
export const LEAST_ZOOM = 1e-4
export const GREATEST_ZOOM = 1e4
export const GREATEST_PITCH = 65

/** Reference pixels are pixels of a frame whose shorter side is 1080: a 4K export looks like the preview, only sharper. */
const REFERENCE_SIDE = 1080

/** Output pixels per reference pixel. */
export const outputScale = ({ width, height }: Size): number => Math.min(width, height) / REFERENCE_SIDE

/** The frame's size in reference pixels. */
export function referenceSize(frame: Size): Size {
  const k = outputScale(frame)
  return { width: frame.width / k, height: frame.height / k }
}
