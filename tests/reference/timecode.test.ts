/** Timecode against SMPTE ST 12-1; frame counts from the rates' definitions. */
import { describe, expect, it } from 'vitest'
import { FRAME_RATES, frameCount, frameIndexAt, frameTime, rateLabel } from '#core/pace/rate'
import { frameOfTimecode, timecode, typedSeconds } from '#core/pace/timecode'

describe('drop-frame timecode (SMPTE ST 12-1)', () => {
  it.each([
    [0, '00:00:00;00'],
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [17981, '00:09:59;29'],
    [17982, '00:10:00;00'],
    [107892, '01:00:00;00'],
  ])('frame %i at 30000/1001 is %s', (frame, code) => expect(timecode(frame, '30000/1001')).toBe(code))

  it('drops four numbers a minute at 60000/1001', () => {
    expect(timecode(3599, '60000/1001')).toBe('00:00:59;59')
    expect(timecode(3600, '60000/1001')).toBe('00:01:00;04')
    expect(timecode(35964, '60000/1001')).toBe('00:10:00;00')
  })

  it('never gives a dropped number, and no number twice, in the first eleven minutes', () => {
    const codes = Array.from({ length: 19800 }, (_, k) => timecode(k, '30000/1001'))
    expect(new Set(codes).size).toBe(codes.length)
    expect(codes.some((code) => /00:0[1-9]:00;0[01]/.test(code))).toBe(false)
  })

  it('leaves nothing out at 24000/1001, which has no drop-frame count', () => {
    expect(timecode(1439, '24000/1001')).toBe('00:00:59:23')
    expect(timecode(1440, '24000/1001')).toBe('00:01:00:00')
    expect(timecode(86_400, '24000/1001')).toBe('01:00:00:00')
    expect(rateLabel('24000/1001')).toBe('23.976')
  })

  it('counts plainly at whole rates', () => {
    expect(timecode(2879, '48/1')).toBe('00:00:59:47')
    expect(timecode(1800, '30/1')).toBe('00:01:00:00')
    expect(timecode(1499, '25/1')).toBe('00:00:59:24')
  })
})

describe('frames and times', () => {
  it.each(FRAME_RATES)('frame k at %s is found again from its own time', (rate) => {
    for (let k = 0; k < 5000; k++) expect(frameIndexAt(frameTime(k, rate), rate)).toBe(k)
  })

  it('knows that 30000/1001 is not 29.97', () => {
    expect(frameCount(20, '30000/1001')).toBe(599)
    expect(frameTime(30000, '30000/1001')).toBe(1001)
  })
})

describe('a timecode that is typed', () => {
  it.each(FRAME_RATES)('names the frame that has it at %s, for an hour and a bit', (rate) => {
    for (let k = 0; k < 220_000; k += 37) expect(frameOfTimecode(timecode(k, rate), rate)).toBe(k)
  })

  it('is none where its number is left out, or beyond its place', () => {
    // SMPTE ST 12-1: 00 and 01 are left out at the start of each minute that is no tenth one.
    expect(frameOfTimecode('00:01:00;00', '30000/1001')).toBeUndefined()
    expect(frameOfTimecode('00:01:00;01', '30000/1001')).toBeUndefined()
    expect(frameOfTimecode('00:01:00;02', '30000/1001')).toBe(1800)
    expect(frameOfTimecode('00:10:00;00', '30000/1001')).toBe(17982)
    for (const text of ['00:00:00:30', '00:60:00:00', '00:00:61:00', '1:05', '00:00:04', 'now'])
      expect(frameOfTimecode(text, '30/1')).toBeUndefined()
  })
})

describe('a time that is typed', () => {
  const typed = (text: string, now = 2) => typedSeconds(text, { now, rate: '25/1' }).seconds
  it.each([
    ['2.5', 2.5],
    ['2,5', 2.5],
    [' 2.5 s', 2.5],
    ['.5s', 0.5],
    ['1:05', 65],
    ['1:05.5', 65.5],
    ['12f', 0.48],
    ['12 F', 0.48],
    ['00:00:04:12', 4.48],
    // A sign before a number alone is its own: some times lie before what they are counted from.
    ['-0.5', -0.5],
    ['+0.5', 0.5],
    // Changes.
    ['+12f', 2.48],
    ['-12f', 1.52],
    ['+1.5s', 3.5],
    ['- 1.5 s', 0.5],
    ['+00:00:01:05', 3.2],
  ])('as %s is %f s, from 2 s on', (text, seconds) => expect(typed(text)).toBeCloseTo(seconds, 9))

  it.each(['', 'soon', '12ff', '1.5f', '1:5:3', '1:65:00', '--2', '5m', '00:00:00:25'])('as %j is none', (text) => {
    expect(typed(text)).toBeNaN()
  })

  it('keeps frames exactly, and says so', () => {
    expect(typedSeconds('7f', { now: 0, rate: '24000/1001' })).toEqual({ seconds: (7 * 1001) / 24000, isExact: true })
    expect(typedSeconds('0.29', { now: 0, rate: '24000/1001' }).isExact).toBe(false)
  })
})
