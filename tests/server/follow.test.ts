/** Following the roads of the Lantern Isles' sheet, out of its tiles. What the roads were drawn from is known: demo/places.ts. */
import { beforeAll, describe, expect, it } from 'vitest'
import type { PictureSource } from '#core/follow/picture'
import { colourAt, followRoad } from '#core/follow/follow-road'
import { hexOf, rgbOf } from '#core/colour/srgb'
import { courseOf, pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import { TOWNS } from '#demo/places'
import { stillDemo } from '#demo/journey'
import { freshDemo } from '#demo/seed'
import { pictureSource } from '../../server/sheets/picture-source'
import { shareOnRoads } from '../support/isles'

let source: PictureSource
beforeAll(async () => {
  const { journey: moving, folder } = await freshDemo()
  const journey = stillDemo(moving)
  source = pictureSource(folder, journey.sheets[0]!)
})

const way = async (through: Point[], colour: string | null) =>
  followRoad(source, { through, colour: colour === null ? null : rgbOf(colour) }, () => undefined)

const ROAD = '#fbf3dc'
const RAILWAY = '#3c3a44'

describe('on the Lantern Isles', () => {
  it.each([
    ['quillhaven', 'oarsend', null],
    ['quillhaven', 'oarsend', ROAD],
    ['harrowmere', 'oarsend', null],
    ['harrowmere', 'quillhaven', RAILWAY],
    ['cinderford', 'emberlight', null],
    ['saltern', 'thatchley', ROAD],
    ['harrowmere', 'millbeck', null],
  ] as const)('the way from %s to %s, of the colour %s, is on the road for 97 of 100 parts', async (from, to, colour) => {
    const found = await way([TOWNS[from].at, TOWNS[to].at], colour)
    if (!found.found) throw new Error(found.reason)
    expect(shareOnRoads(courseOf(found.course))).toBeGreaterThanOrEqual(0.97)
  })

  it('a click on the way brings it onto another road', async () => {
    const { harrowmere, quillhaven, millbeck } = TOWNS
    const found = await way([harrowmere.at, millbeck.at, quillhaven.at], null)
    if (!found.found) throw new Error(found.reason)
    const course = courseOf(found.course)
    const nearest = Math.min(
      ...Array.from({ length: 500 }, (_, i) => distance(pointAt(course, (course.length * i) / 499), { x: 820, y: 1760 })),
    )
    expect(nearest).toBeLessThan(12)
    expect(shareOnRoads(course)).toBeGreaterThanOrEqual(0.97)
  })

  it.each([
    ['oarsend', 'lampwick', null],
    ['lampwick', 'emberlight', ROAD],
    ['lampwick', 'emberlight', null],
    ['quillhaven', 'oarsend', RAILWAY],
  ] as const)('there is no way from %s to %s: %s', async (from, to, colour) => {
    const lost = await way([TOWNS[from].at, TOWNS[to].at], colour)
    if (lost.found) throw new Error('a way was found where there is none')
    expect(lost.reason).toMatch(/lost for \d+ px|no road of this colour/)
    expect(lost.at).not.toBeNull()
  })

  it('gives the colour of a spot, and of the nearest where that lies beyond the edge', async () => {
    // Roads are drawn in this colour; WebP changes it by a shade.
    const [r, g, b] = await colourAt(source, { x: 4720, y: 1010 })
    expect(Math.hypot(r - 0xfb, g - 0xf3, b - 0xdc)).toBeLessThan(12)
    expect(hexOf(await colourAt(source, { x: -50, y: 9999 }))).toBe(hexOf(await colourAt(source, { x: 0, y: 3599 })))
  })
})
