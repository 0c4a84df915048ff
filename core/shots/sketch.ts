import type { ChaseShot, Moment, Shot, ShotOf } from '../journey/schema'

/** A shot without a moment; it gets one when all is known. */
export interface Sketch {
  key: string
  shot: Sketched<ShotOf<'overview'>> | Sketched<ShotOf<'globe'>> | Sketched<ChaseShot>
  zoom: number
  /** Whether it shows the whole, or as much of it as the map has room for. */
  isWhole?: true
}
/** What of a shot is not the same for all. */
export type Sketched<S extends Shot> = Omit<S, 'id' | 'at' | 'transition' | 'easing' | 'orbit' | 'dolly'> & { orbit?: number }
export interface TimedSketch extends Sketch {
  time: number
  transition: number
}
export const timed = (sketch: Sketch, time: number, transition: number): TimedSketch => ({ ...sketch, time, transition })

/** A sketch as a shot of the document. */
export function shotOf({ shot, transition }: TimedSketch, id: string, at: Moment): Shot {
  const common = { id, at, transition: Math.round(transition * 1000) / 1000, easing: 'ease-in-out', orbit: 0, dolly: null } as const
  return { ...common, ...shot }
}
