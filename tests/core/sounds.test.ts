/** What is heard with a film: its own sounds, and pieces of music in the mix. */
import { describe, expect, it } from 'vitest'
import { addAudio, editAudio, setSound, trimAudio } from '#core/edits/pace/audio'
import {
  arriveOnBeats,
  beatsOf,
  doubleBeats,
  everySecondBeat,
  moveBeat,
  removeBeat,
  setBars,
  shiftBeats,
  tapBeat,
} from '#core/edits/pace/beats'
import { editLeg } from '#core/edits/lines/legs'
import { mixOf, mixPart } from '#core/film/mix'
import type { PieceSource } from '#core/film/mix'
import { addSounds, soundsOf } from '#core/film/sounds'
import { compile } from '#core/frame/compile'
import { createJourney } from '#core/journey/create'
import type { Journey } from '#core/journey/schema'
import { SOUND_KINDS, vehicleSchema } from '#core/journey/schema'
import { parseJourney } from '#core/journey/parse'
import { SOUND_RATE, toIntegers, wavHeader } from '#core/sound/pcm'
import { journeyOver } from '../support/journeys'

const trip = (artwork: 'bus' | 'bicycle' | 'rowboat' | 'train' | 'seaplane') => {
  const journey = journeyOver([[0, 0], [900, 0], [900, 600]], {}, 12) // prettier-ignore
  return editLeg(journey, 'l1', { vehicle: { kind: 'catalogue', artwork, colour: '#17646b', size: 60 } })
}
const loud = (journey: Journey): Journey => SOUND_KINDS.reduce((j, kind) => setSound(j, kind, 1), journey)

/** A tone of 1000 Hz at half of full scale, twenty seconds long. */
const tone: PieceSource = (_file, first, count) => {
  const end = Math.min(20 * SOUND_RATE, first + count)
  return Int16Array.from(
    { length: 2 * Math.max(0, end - first) },
    (_, i) => 16384 * Math.sin((2 * Math.PI * 1000 * (first + (i >> 1))) / SOUND_RATE),
  )
}
const piece = { file: 'a'.repeat(64), name: 'Tone', seconds: 20 }
const rms = (samples: Float32Array) => Math.sqrt(samples.reduce((sum, value) => sum + value * value, 0) / samples.length)
const heard = (journey: Journey, from: number, to: number) =>
  mixPart(mixOf(compile(journey))!, tone, Math.round(from * SOUND_RATE), Math.round((to - from) * SOUND_RATE))[0]

describe('the sounds of a film', () => {
  it('are off at first', () => {
    expect(mixOf(compile(trip('bus')))).toBeUndefined()
    expect(Object.values(createJourney('New').sounds)).toEqual(SOUND_KINDS.map(() => 0))
  })

  it('are those that a picture of one’s own is said to make, at first an engine', () => {
    const own = { kind: 'image', picture: { image: 'b'.repeat(64), width: 60, height: 40, vector: false } }
    const heardOf = (voice?: string) => {
      const journey = editLeg(trip('bus'), 'l1', { vehicle: vehicleSchema.parse({ ...own, voice }) })
      const { events, drones } = soundsOf(compile(loud(journey)))
      return { drones: drones.length, bells: events.filter(({ kind }) => kind === 'bell').length }
    }
    const silent = heardOf('none')
    expect(heardOf()).toEqual({ ...silent, drones: silent.drones + 1 })
    expect(heardOf('bell')).toEqual({ ...silent, bells: silent.bells + 1 })
  })

  it.each([
    ['bus', 'engine'],
    ['bicycle', 'bell'],
    ['rowboat', 'oars'],
    ['train', 'rails'],
    ['seaplane', 'take-off'],
  ] as const)('of a %s are of its kind, while it travels', (artwork, kind) => {
    const compiled = compile(loud(trip(artwork)))
    const { events, drones } = soundsOf(compiled)
    const { depart, arrive } = compiled.travellers[0]!.legs[0]!
    const own = events.filter((event) => event.kind !== 'pin')
    if (kind !== 'engine') expect(own.some((event) => event.kind === kind)).toBe(true)
    if (kind === 'engine' || kind === 'take-off') expect(drones).toMatchObject([{ from: depart, to: arrive }])
    for (const { at, kind: its } of own) {
      expect([kind, 'engine']).toContain(its)
      expect(at).toBeGreaterThanOrEqual(depart - 1e-9)
      expect(at).toBeLessThanOrEqual(arrive + 1e-9)
    }
    expect(events.filter((event) => event.kind === 'pin')).toHaveLength(3)
  })

  it('follow the speed: wheels over joints are quickest half-way', () => {
    const compiled = compile(loud(trip('train')))
    const { depart, arrive } = compiled.travellers[0]!.legs[0]!
    const times = soundsOf(compiled).events.flatMap(({ kind, at }) => (kind === 'rails' ? [(at - depart) / (arrive - depart)] : []))
    const within = (from: number, to: number) => times.filter((at) => at >= from && at < to).length
    expect(within(0.4, 0.6)).toBeGreaterThan(1.8 * within(0, 0.2))
  })

  it('are the same from wherever one listens, and never too loud', () => {
    const sounds = soundsOf(compile(loud(trip('seaplane'))))
    const whole = new Float32Array(12 * SOUND_RATE)
    addSounds(sounds, whole, 0)
    const part = new Float32Array(SOUND_RATE)
    addSounds(sounds, part, 3 * SOUND_RATE)
    expect(part).toEqual(whole.slice(3 * SOUND_RATE, 4 * SOUND_RATE))
    expect(Math.max(...[...part].map(Math.abs))).toBeGreaterThan(0.01)
    expect(whole.reduce((most, value) => Math.max(most, Math.abs(value)), 0)).toBeLessThan(1)
  })
})

describe('a piece of music', () => {
  const with_ = (fields: Parameters<typeof editAudio>[2]) => editAudio(addAudio(trip('bus'), 'p', piece), 'p', { fadeOut: 0, ...fields })

  it('is heard from its moment on, as loud as asked: −6 dB is about half', () => {
    const journey = with_({ offset: 2, to: 5, gain: -6 })
    expect(rms(heard(journey, 0, 1.99))).toBe(0)
    // A sine of half of full scale has an effective value of 0.354.
    expect(rms(heard(journey, 3, 4))).toBeCloseTo(0.3536 * 10 ** (-6 / 20), 3)
    expect(rms(heard(journey, 7.01, 8))).toBe(0)
    expect(() => parseJourney(JSON.parse(JSON.stringify(journey)))).not.toThrow()
  })

  it('comes and goes', () => {
    const journey = with_({ fadeIn: 2, fadeOut: 4, to: 10 })
    expect(rms(heard(journey, 0.95, 1.05))).toBeCloseTo(0.3536 / 2, 2)
    expect(rms(heard(journey, 4, 5))).toBeCloseTo(0.3536, 3)
    expect(rms(heard(journey, 7.95, 8.05))).toBeCloseTo(0.3536 / 2, 2)
  })

  it('is cut where it is dragged, and the rest is heard when it was', () => {
    const journey = with_({ offset: 2, from: 1, to: 8 })
    expect(trimAudio(journey, 'p', 'from', 4).audio[0]).toMatchObject({ offset: 4, from: 3, to: 8 })
    expect(trimAudio(journey, 'p', 'to', 5).audio[0]).toMatchObject({ offset: 2, from: 1, to: 4 })
    // Not beyond its own ends, nor the film's start.
    expect(trimAudio(journey, 'p', 'from', -9).audio[0]).toMatchObject({ offset: 1, from: 0 })
    expect(trimAudio(journey, 'p', 'to', 99).audio[0]).toMatchObject({ to: 20 })
  })

  it('has beats that are tapped, thinned out and arrived on', () => {
    let journey = with_({ offset: 1, from: 2 })
    for (const time of [1, 2, 3, 3.02, 4]) journey = tapBeat(journey, 'p', time)
    expect(journey.audio[0]!.beats).toEqual([2, 3, 4, 5])
    expect(beatsOf(journey)).toEqual([1, 2, 3, 4])
    expect(everySecondBeat(journey, 'p').audio[0]!.beats).toEqual([2, 4])
    const beaten = with_({ beats: Array.from({ length: 40 }, (_, i) => i * 0.5) })
    const held = arriveOnBeats(beaten, 'traveller')
    const { visits } = compile(held).travellers[0]!
    for (const { arrive } of visits.slice(1)) expect(Math.abs(arrive * 2 - Math.round(arrive * 2))).toBeLessThan(1e-9)
    expect(() => arriveOnBeats(trip('bus'), 'traveller')).toThrow(/no beats/)
  })
})

describe('bars', () => {
  // Eight beats of half a second, of which the second and the sixth begin a bar.
  const beats = [0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4]
  const journey = () => editAudio(addAudio(trip('bus'), 'p', piece), 'p', { beats, bars: { beats: 4, first: 1 } })
  /** The seconds at which bars begin. */
  const begun = ({ audio: [first] }: Journey): number[] => {
    const { beats: all, bars } = first!
    return all!.filter((_, i) => bars !== null && i % bars.beats === bars.first)
  }

  it('begin where they did when beats are added, removed, moved, halved and doubled', () => {
    expect(begun(journey())).toEqual([1, 3])
    expect(begun(tapBeat(journey(), 'p', 0.1))).toEqual([1, 3])
    expect(begun(removeBeat(journey(), 'p', 0))).toEqual([1, 3])
    expect(begun(everySecondBeat(journey(), 'p'))).toEqual([1, 3])
    expect(begun(doubleBeats(journey(), 'p'))).toEqual([1, 3])
    expect(doubleBeats(journey(), 'p').audio[0]!.beats).toHaveLength(15)
    expect(begun(shiftBeats(journey(), 'p', 0.02))).toEqual([1.02, 3.02])
    // Two beats are lost at the start, one of which began a bar.
    expect(begun(shiftBeats(journey(), 'p', -1.1))).toEqual([1.9])
    expect(everySecondBeat(setBars(journey(), 'p', { beats: 3, first: 0 }), 'p').audio[0]!.bars).toBeNull()
  })

  it('keep a beat between its neighbours, and are what arrivals keep to when asked', () => {
    expect(moveBeat(journey(), 'p', 2, 1.62).audio[0]!.beats![2]).toBe(1.62)
    expect(moveBeat(journey(), 'p', 2, 9).audio[0]!.beats![2]).toBe(1.9)
    const long = editAudio(journey(), 'p', { beats: Array.from({ length: 40 }, (_, i) => i / 2), bars: { beats: 4, first: 0 } })
    for (const { arrive } of compile(arriveOnBeats(long, 'traveller', 'bars')).travellers[0]!.visits.slice(1))
      expect(Math.abs(arrive / 2 - Math.round(arrive / 2))).toBeLessThan(1e-9)
    expect(() => parseJourney(JSON.parse(JSON.stringify(long)))).not.toThrow()
    expect(() => parseJourney(JSON.parse(JSON.stringify(editAudio(long, 'p', { bars: { beats: 4, first: 4 } }))))).toThrow(/bar/)
  })
})

describe('a WAV file', () => {
  it('has the header of the specification', () => {
    // Bytes written out by hand from Multimedia Programming Interface and Data Specifications 1.0 (1991): 2 samples of 2 channels at 48 000 a second.
    const hex = '52494646' + '2c000000' + '57415645' + '666d7420' + '10000000' + '0100' + '0200' + '80bb0000' + '00ee0200' + '0400' + '1000' + '64617461' + '08000000' // prettier-ignore
    expect(Buffer.from(wavHeader(2, 2, 48_000)).toString('hex')).toBe(hex)
    expect([...toIntegers([Float32Array.of(0, 1, -1), Float32Array.of(2, 0.5, -2)])]).toEqual([0, 32767, 32767, 16384, -32767, -32767])
  })
})
