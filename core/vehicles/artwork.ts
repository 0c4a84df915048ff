/**
 * How a vehicle rides on a line. Its measures are in hundredths of its length, from the point that rides there: the middle of a vehicle seen from above, the
 * foot of the others.
 */
export interface Posture {
  /** A vehicle from above turns freely; one from the side is mirrored and leans; an upright one never turns. */
  view: 'above' | 'side' | 'upright'
  /** Direction the picture faces, in degrees clockwise from "to the right". */
  facing: number
  /** The most that a vehicle seen from the side leans, in degrees; 12 where nothing is said. Ships stay on an even keel. */
  mostLean?: number
  /** How far behind that point the ink ends, as a share of the vehicle's length: it must end under the picture. */
  inkBehind: number
  /** The box that the picture keeps to. */
  bounds: { left: number; top: number; right: number; bottom: number }
}

/** What a vehicle travels on. One in the air rises over the ground, and casts a shadow. */
export type Medium = 'land' | 'water' | 'air'

/** What is heard of a vehicle: an engine, that engine in the air, oars, wheels on rails, or a bell at the start. */
export const VOICES = ['engine', 'aircraft', 'oars', 'rails', 'bell', 'none'] as const
export type Voice = (typeof VOICES)[number]

/** A vehicle of the catalogue: shapes as SVG path data, 100 units long in the direction it faces, in back-to-front order. */
export interface Artwork extends Posture {
  name: string
  medium: Medium
  /** How fast it travels on average, in km/h: round figures, common practice, no source. */
  speed: number
  voice: Voice
  shapes: readonly Shape[]
}

export interface Shape {
  d: string
  fill?: Tone
  stroke?: Tone
  /** Stroke width in artwork units. */
  width?: number
  /** Of a wheel's hub, or a tyre: its middle and the wheel's radius, so that spokes can turn in it. */
  wheel?: { x: number; y: number; r: number }
}

/** The paints of an artwork: 'body' is the chosen colour, 'shade' and 'tint' derive from it, the others are fixed. */
export type Tone = 'body' | 'shade' | 'tint' | 'line' | 'glass' | 'paper' | 'lamp' | 'wood' | 'steel'
