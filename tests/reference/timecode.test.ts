/** Timecode against SMPTE ST 12-1; frame counts from the rates' definitions. */
import { describe, expect, it } from 'vitest'
import { FRAME_RATES, frameCount, frameIndexAt, frameTime, rateLabel } from '#core/pace/rate'
import { timecode } from '#core/pace/timecode'

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
