/** A wash that goes, in pixels: each is the mixture of the sheet with it and without it; painted in any order it is the same. */
import { rmSync } from 'node:fs'
import { afterAll, describe, expect, it } from 'vitest'
import { setFrame } from '#core/edits/journey'
import { compile } from '#core/frame/compile'
import type { Journey } from '#core/journey/schema'
import { valueMarkSchema } from '#core/journey/schema'
import { nightJourney } from '#demo/night'
import { freshDemo } from '#demo/seed'
import { createFilmPainter } from '#render/film-painter'
import { temporaryFolder } from '../support/server'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const demo = await freshDemo()
const shaded = setFrame({ ...nightJourney(demo.journey.sheets[0]!), valueMarks: [] }, { width: 480, height: 270, rate: '30/1' })
/** Without the shade at the frame's edges, which is laid over the mixture of both, and not over each. */
const night = { ...shaded, sheets: shaded.sheets.map((of) => ({ ...of, wash: { ...of.wash!, edgeShade: null } })) }
const sheet = night.sheets[0]!.id
const washed = (to: number, within = 0): Journey => ({
  ...night,
  valueMarks: [valueMarkSchema.parse({ value: 'wash', id: 'w', sheet, at: { at: 'start' }, within, to, easing: 'linear' })],
})

async function groundOf(journey: Journey, frames: readonly number[]): Promise<Uint8Array[]> {
  const painter = createFilmPainter(demo.folder, compile(journey), { pixels: 'rgba', shows: 'ground' })
  const pictures: Uint8Array[] = []
  for (const k of frames) {
    await painter.paint(k)
    pictures.push(painter.picture.rgba.slice())
  }
  return pictures
}

describe('a wash that goes', () => {
  it('is the mixture of the sheet with and without it, while the camera rests and while it moves', async () => {
    const frames = [10, 90]
    const [full, none, part] = await Promise.all([night, washed(0), washed(0.3)].map((journey) => groundOf(journey, frames)))
    frames.forEach((k, f) => {
      let most = 0
      part![f]!.forEach((value, i) => {
        const mixed = 0.3 * full![f]![i]! + 0.7 * none![f]![i]!
        most = Math.max(most, Math.abs(value - mixed))
      })
      // Each is rounded twice.
      expect(most, `frame ${k}`).toBeLessThan(2)
      expect(Buffer.compare(Buffer.from(full![f]!), Buffer.from(none![f]!))).not.toBe(0)
    })
  })

  it('is the same however it is come to', async () => {
    const going = washed(0, 3)
    const [, , there] = await groundOf(going, [20, 21, 22])
    const [alone] = await groundOf(going, [22])
    const [, back] = await groundOf(going, [60, 22])
    for (const other of [alone, back]) expect(Buffer.compare(Buffer.from(there!), Buffer.from(other!))).toBe(0)
  })
})
