import { projectionOf } from '../camera/projection'
import { frameAt } from '../frame/frame-at'
import type { Frame, LabelItem } from '../frame/frame'
import type { Box } from '../geometry/box'
import type { Point } from '../geometry/point'
import { greatest } from '../geometry/extremes'
import { markedOf, nameOfCaption } from '../journey/lookup'
import type { TextStyle } from '../journey/schema'
import { labelBox } from '../marks/label-layout'
import { frameTime } from '../pace/rate'
import type { CompiledJourney } from '../trips/compiled'
import { capitalHeight } from '../type/measure'
import type { Finding, Subject } from './finding'

/**
 * Whether what is written in a film can be read: it is looked through, frame by frame or as often as need be, for when each name, card and title is there, whole
 * and still enough.
 */

/**
 * Words a second that are read with the picture beside them: subtitles have 160 to 180 words a minute (BBC Subtitle Guidelines 1.2.3; from memory). Nothing is
 * noticed and read in less than a second (common practice, no source).
 */
const WORDS_PER_SECOND = 3
const LEAST_SECONDS = 1
/** A photo takes longer than a word to be taken in, in seconds (common practice, no source). */
const PHOTO_SECONDS = 1.5

/** What lies further out than this share of the frame may be cut off or covered: the graphics safe area (EBU R 95, 2017; from memory). */
const SAFE = 0.05

/**
 * The least height of a capital, as a share of the frame's shorter side: 16 minutes of arc (ISO 9241-303:2011, 5.5.4; from memory) at 30 cm are 1.4 mm, and the
 * shorter side of a telephone that the film fills is 66 mm (common practice, no source).
 */
const LEAST_CAPITAL = 1.4 / 66

/** The shorter side of every frame, in reference pixels. */
const REFERENCE = 1080

/** How long the last stop is seen before the film ends, in seconds (common practice, no source). */
const LEAST_END = 1

/** No more moments than this are looked at, evenly spread. */
const MOST = 600
/** What is as good as opaque. */
const OPAQUE = 0.9

/** Something that is written, as far as the film has been looked through. */
interface Written {
  subject: Subject
  /** As it is told. */
  name: string
  /** Seconds that it needs. */
  needed: number
  /** Capitals at their largest while it is whole, in reference pixels. */
  capital: number
  whole: Stretches
  /** Those in which it is in the safe area. */
  safe: Stretches
}

/** For how long something is so at one time, at the longest, in seconds; -1 where it never is. */
class Stretches {
  longest = -1
  /** When the longest began. */
  from = 0
  private begun: number | undefined

  add(time: number, isSo: boolean): void {
    if (!isSo) this.begun = undefined
    else {
      this.begun ??= time
      if (time - this.begun >= this.longest) {
        this.longest = time - this.begun
        this.from = this.begun
      }
    }
  }
}

/** Looks through the film, and stops after every moment: what asks may go on later, or not at all. */
export function* checkWords(compiled: CompiledJourney): Generator<undefined, Finding[]> {
  const { frames, journey, lastTime } = compiled
  const step = Math.max(1, Math.ceil(frames / MOST))
  const written = new Map<string, Written>()
  for (let k = 0; k < frames; k += step) {
    const time = frameTime(k, journey.frame.rate)
    look(seenIn(compiled, frameAt(compiled, time)), time, written)
    yield
  }
  // A stretch of two moments may be as long as three.
  const slack = frameTime(2 * step, journey.frame.rate)
  return [...unseenNames(compiled, written), ...[...written.values()].flatMap((each) => judged(each, slack)), ...endOf(compiled, lastTime)]
}

function look(seen: readonly Seen[], time: number, written: Map<string, Written>): void {
  const now = new Map(seen.map((each) => [`${each.subject.kind} ${each.subject.id}`, each]))
  for (const [key, { isWhole, isSafe, capital, ...rest }] of now) {
    const known = written.get(key) ?? { ...rest, capital: 0, whole: new Stretches(), safe: new Stretches() }
    if (isWhole) known.capital = Math.max(known.capital, capital)
    known.whole.add(time, isWhole)
    known.safe.add(time, isWhole && isSafe)
    written.set(key, known)
  }
  for (const [key, known] of written)
    if (!now.has(key)) {
      known.whole.add(time, false)
      known.safe.add(time, false)
    }
}

interface Seen extends Pick<Written, 'subject' | 'name' | 'needed' | 'capital'> {
  isWhole: boolean
  isSafe: boolean
}

function seenIn({ journey }: CompiledJourney, frame: Frame): Seen[] {
  const { width, height } = frame.reference
  const projection = projectionOf(frame.view, frame.reference)
  return frame.items.flatMap((item): Seen[] => {
    switch (item.kind) {
      case 'label': {
        const k = Math.sqrt(projection.depthScale(item.at))
        const box = boxOf(item, projection.toScreen(item.at), k)
        const text = item.label.block.lines.map((line) => line.text).join(' ')
        const { name } = markedOf(journey).find(({ id }) => id === item.stop)!
        const isWhole = item.opacity >= OPAQUE && item.elapsed === null && within(box, 0, width, height)
        return [
          {
            subject: { kind: journey.stops.some(({ id }) => id === item.stop) ? 'stop' : 'landmark', id: item.stop },
            name,
            needed: secondsFor(text),
            capital: capitalOf(item.style) * item.scale * k,
            isWhole,
            isSafe: within(box, SAFE, width, height),
          },
        ]
      }
      case 'postcard': {
        const { photo, text, id } = item.postcard
        const isWhole = item.opacity >= OPAQUE && item.unrolled > 0.99 && Math.abs(item.shift) < 0.01
        const needed = Math.max(photo ? PHOTO_SECONDS : 0, text.trim() === '' ? 0 : secondsFor(text))
        return [
          {
            subject: { kind: 'card', id, stop: item.stop },
            name: text.trim() || 'A photo',
            needed,
            capital: Infinity,
            isWhole,
            isSafe: isWhole,
          },
        ]
      }
      case 'caption': {
        const caption = journey.captions.find(({ id }) => id === item.id)
        // A readout changes all the time, and is not read as a text is.
        if (caption?.content.kind !== 'title' || item.figure.kind !== 'text') return []
        const isWhole = item.opacity >= OPAQUE && item.elapsed === null
        const { text } = caption.content
        return [{ subject: { kind: 'caption', id: item.id }, name: nameOfCaption(caption), needed: secondsFor(text), capital: capitalOf(item.style), isWhole, isSafe: isWhole }] // prettier-ignore
      }
      default:
        return []
    }
  })
}

const secondsFor = (text: string): number => Math.max(LEAST_SECONDS, text.split(/\s+/).filter(Boolean).length / WORDS_PER_SECOND)

const capitalOf = (style: TextStyle): number => capitalHeight(style) * style.size

function boxOf({ label, style, scale }: LabelItem, { x, y }: Point, k: number): Box {
  const { left, right, top, bottom } = labelBox(label, style)
  const of = k * scale
  return { left: x + of * left, right: x + of * right, top: y + of * top, bottom: y + of * bottom }
}

const within = ({ left, right, top, bottom }: Box, margin: number, width: number, height: number): boolean =>
  left >= margin * width && right <= (1 - margin) * width && top >= margin * height && bottom <= (1 - margin) * height

/** Those of stops and marks that never come into the picture whole. */
function unseenNames({ journey, travellers }: CompiledJourney, written: ReadonlyMap<string, Written>): Finding[] {
  const stops = new Set(journey.stops.map(({ id }) => id))
  return markedOf(journey).flatMap(({ id, name, label }): Finding[] => {
    const kind = stops.has(id) ? 'stop' : 'landmark'
    const seen = written.get(`${kind} ${id}`)?.whole.longest ?? -1
    const visit = travellers
      .filter(({ traveller }) => traveller.shown)
      .flatMap(({ visits }) => visits)
      .find(({ stop }) => stop.id === id)
    // A stop that nobody comes to is not in the film.
    if (!label.shown || name === '' || seen >= 0 || (kind === 'stop' && !visit)) return []
    const text = `The name “${name}” is never seen whole: ${visit ? 'it is covered, cut off by the frame, or there is no time for it' : 'the frame never has all of it'}.`
    return [{ check: 'unseen', subject: { kind, id }, text, at: visit?.arrive ?? 0, lack: LEAST_SECONDS }]
  })
}

function judged({ subject, name, needed, capital, whole, safe }: Written, slack: number): Finding[] {
  const found: Finding[] = []
  const what = subject.kind === 'card' ? (name === 'A photo' ? 'A photo' : `The card “${short(name)}”`) : `“${short(name)}”`
  const add = (check: Finding['check'], text: string, lack: number) => found.push({ check, subject, text, at: whole.from, lack })
  if (whole.longest >= 0 && whole.longest + slack < needed)
    add('brief', `${what} is seen for ${whole.longest.toFixed(1)} s, and takes ${needed.toFixed(1)} s to ${name === 'A photo' ? 'take in' : 'read'}.`, needed - whole.longest) // prettier-ignore
  else if (whole.longest >= 0 && safe.longest + slack < needed)
    add('near-edge', `${what} is seen long enough only at the frame’s edge, of which screens may cut off ${100 * SAFE} %.`, needed - Math.max(0, safe.longest)) // prettier-ignore
  const share = capital / REFERENCE
  if (whole.longest >= 0 && share < LEAST_CAPITAL)
    add('small', `${what} has capitals of ${(100 * share).toFixed(1)} % of the frame’s shorter side: below ${(100 * LEAST_CAPITAL).toFixed(1)} % they are too small on a telephone.`, LEAST_CAPITAL / share) // prettier-ignore
  return found
}

const short = (text: string): string => (text.length > 40 ? `${text.slice(0, 39).trimEnd()}…` : text)

/** Whether the film ends before one sees that the trip is over. */
function endOf({ travellers }: CompiledJourney, lastTime: number): Finding[] {
  const last = greatest(
    travellers.flatMap(({ traveller, visits }) => (traveller.shown && visits.length > 1 ? [visits.at(-1)!.arrive] : [-Infinity])),
  )
  if (last === -Infinity || lastTime - last >= LEAST_END - 0.05) return []
  return [{ check: 'end', subject: { kind: 'film', id: 'end' }, lack: LEAST_END - (lastTime - last), text: `The film ends ${(lastTime - last).toFixed(1)} s after the last stop is reached: it takes ${LEAST_END} s to see where the trip has ended.`, at: last }] // prettier-ignore
}
