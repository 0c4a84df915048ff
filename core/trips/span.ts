import type { Moment, Span } from '../journey/schema'
import { smooth } from '../pace/easing'

/** When a stop is reached and left, in seconds. */
export interface StopTimes {
  arrive: number
  leave: number
}

/** A span in seconds of the film. */
export interface CompiledSpan {
  from: number
  to: number
  fade: number
}

/** The whole film. */
export const ALWAYS: CompiledSpan = { from: -Infinity, to: Infinity, fade: 0 }

/** The time of a moment, in seconds of the film; it may lie outside it. */
export function timeOf(moment: Moment, stops: ReadonlyMap<string, StopTimes>, end: number): number {
  switch (moment.at) {
    case 'start':
      return moment.offset
    case 'end':
      return end + moment.offset
    case 'arrival':
      return (stops.get(moment.stop)?.arrive ?? 0) + moment.offset
    case 'departure':
      return (stops.get(moment.stop)?.leave ?? 0) + moment.offset
  }
}

/** When which stop is first reached and left. */
export interface NamedStopTimes extends StopTimes {
  stop: string
}

/**
 * The moment that ties a time to the journey: to the last arrival or departure before it, so that it moves along when the pace changes; to the start
 * where there was none. Offsets are in thousandths of a second.
 */
export function momentAt(time: number, stops: readonly NamedStopTimes[]): Moment {
  const anchors = stops.flatMap(({ stop, arrive, leave }) => [
    { at: 'arrival' as const, stop, time: arrive },
    { at: 'departure' as const, stop, time: leave },
  ])
  const before = anchors.filter((anchor) => anchor.time <= time + 1e-9).sort((a, b) => a.time - b.time)
  const last = before.at(-1)
  const offset = (from: number) => Math.round((time - from) * 1000) / 1000
  return last ? { at: last.at, stop: last.stop, offset: offset(last.time) } : { at: 'start', offset: offset(0) }
}

/** A span with its moments as times. There is no fade at the film's beginning or end. */
export function compileSpan(span: Span | null, stops: ReadonlyMap<string, StopTimes>, end: number): CompiledSpan {
  if (!span) return ALWAYS
  const from = timeOf(span.from, stops, end)
  const to = timeOf(span.to, stops, end)
  return { from: from <= 0 ? -Infinity : from, to: to >= end ? Infinity : to, fade: span.fade }
}

/** How much is left, 1..0, of something that comes in a way of its own, and fades when its span is over. */
export function remainingAt({ to, fade }: CompiledSpan, time: number): number {
  if (time >= to) return 0
  return to - time >= fade ? 1 : smooth((to - time) / fade)
}

/** The opacity, 0..1, of something shown during a span; both fades lie within the span, and share it if it is too short for them. */
export function visibilityAt({ from, to, fade }: CompiledSpan, time: number): number {
  if (time < from || time > to) return 0
  const each = Math.min(fade, (to - from) / 2)
  if (each <= 0) return 1
  const share = Math.min(1, (time - from) / each, (to - time) / each)
  return share * share * (3 - 2 * share)
}
