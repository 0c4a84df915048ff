import type { View } from '#core/camera/view'
import { flatView } from '#core/camera/view'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { referenceSize } from '#core/camera/view'
import { compile } from '#core/frame/compile'
import { frameAt, withTracing } from '#core/frame/frame-at'
import { compileSpan, visibilityAt } from '#core/trips/span'
import { geoOfSheet, groundGeo } from '#core/geo/ground'
import { createJourney } from '#core/journey/create'
import { setCamera } from '#core/edits/camera/shots'
import { parseJourney } from '#core/journey/parse'
import type { Journey, Sheet } from '#core/journey/schema'
import { areaSchema, sheetSchema, washSchema } from '#core/journey/schema'
import * as edits from '#core/edits/ground/sheets'
import { removeStop } from '#core/edits/trips/trips'
import { creditLine, creditsText } from '#core/sheet/credits'
import { coversFrame, fillingView, fittingView, heldIn } from '#core/sheet/framing'
import { sharpZoom } from '#core/sheet/sharpness'
import { centreSharpness } from '#core/frame/centre-sharpness'
import { viewAt } from '#core/camera/view-track'
import { levelsFor, levelsOfRow, rowDetail, surroundings, washReach } from '#core/sheet/mosaic'
import { groundToSheet, placeByTwoPoints, sheetToGround, turnedAbout } from '#core/sheet/place'
import { coarsestLevel, levelFor, levelSize, tileGrid, tileSize, TILE } from '#core/sheet/pyramid'
import { movedRegion, regionAround, withMargin } from '#core/maps/region'
import { demo, paperSheet } from '../support/journeys'

const reference = { width: 1920, height: 1080 }
const sheet = (patch: Partial<Sheet> = {}): Sheet => ({ ...paperSheet, ...patch })
const over = (patch: Partial<Sheet> = {}): Sheet =>
  sheetSchema.parse({ id: 'town', name: 'Town', image: '1'.repeat(64), width: 1000, height: 500, ...patch })
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const anyPlace = fc.record({ x: number(-5000, 5000), y: number(-5000, 5000), scale: number(0.05, 20), rotation: number(-180, 180) })

describe('a sheet’s place', () => {
  it('leads to the ground and back', () => {
    fc.assert(
      fc.property(anyPlace, number(-9000, 9000), number(-9000, 9000), (place, x, y) => {
        const back = groundToSheet(place, sheetToGround(place, { x, y }))
        expect(back.x).toBeCloseTo(x, 6)
        expect(back.y).toBeCloseTo(y, 6)
      }),
    )
  })

  it('turns clockwise about its upper left corner', () => {
    const p = sheetToGround({ x: 100, y: 50, scale: 2, rotation: 90 }, { x: 10, y: 0 })
    expect(p.x).toBeCloseTo(100, 9)
    expect(p.y).toBeCloseTo(70, 9)
  })

  it('is found by two matched points', () => {
    fc.assert(
      fc.property(anyPlace, (place) => {
        const [a, b] = [
          { x: 20, y: 30 },
          { x: 700, y: 410 },
        ] as const
        const found = placeByTwoPoints(a, b, sheetToGround(place, a), sheetToGround(place, b))
        const [here, there] = [sheetToGround(found, { x: 333, y: 99 }), sheetToGround(place, { x: 333, y: 99 })]
        expect(Math.hypot(here.x - there.x, here.y - there.y)).toBeLessThan(1e-6)
      }),
    )
    expect(() => placeByTwoPoints({ x: 1, y: 1 }, { x: 1, y: 1 }, { x: 0, y: 0 }, { x: 5, y: 5 })).toThrow(/on one spot/)
  })
})

describe('a sheet in the frame', () => {
  const turned = fc
    .tuple(anyPlace, fc.integer({ min: 300, max: 9000 }), fc.integer({ min: 300, max: 9000 }))
    .map(([place, width, height]) => sheet({ place, width, height }))

  it('just covers it when it fills it, however it is turned', () => {
    fc.assert(
      fc.property(turned, (laid) => {
        const view = fillingView(laid, reference)
        expect(coversFrame(laid, view, reference)).toBe(true)
        expect(coversFrame(laid, { ...view, zoom: view.zoom * 0.99 }, reference)).toBe(false)
      }),
    )
  })

  it('is wholly seen when it is fitted', () => {
    fc.assert(
      fc.property(turned, (laid) => {
        const view = fittingView(laid, reference)
        for (const [x, y] of [
          [0, 0],
          [laid.width, 0],
          [laid.width, laid.height],
          [0, laid.height],
        ] as const) {
          const p = projectionOf(view, reference).toScreen(sheetToGround(laid.place, { x, y }))
          expect(p.x).toBeGreaterThan(-0.01)
          expect(p.x).toBeLessThan(1920.01)
          expect(p.y).toBeGreaterThan(-0.01)
          expect(p.y).toBeLessThan(1080.01)
        }
      }),
    )
  })

  it('holds the camera in, by shifting first and zooming only where it must', () => {
    fc.assert(
      fc.property(turned, number(-2, 3), number(-2, 3), number(0.3, 4), (laid, u, v, k) => {
        const filling = fillingView(laid, reference)
        const asked = flatView(sheetToGround(laid.place, { x: u * laid.width, y: v * laid.height }), filling.zoom * k)
        const held = heldIn(laid, asked, reference)
        expect(coversFrame(laid, held, reference)).toBe(true)
        expect(held.zoom).toBeCloseTo(Math.max(asked.zoom, filling.zoom), 9)
        if (coversFrame(laid, asked, reference))
          expect(Math.hypot(held.centre.x - asked.centre.x, held.centre.y - asked.centre.y) * asked.zoom).toBeLessThan(0.02)
      }),
    )
  })

  it('is held in in the film where the ground says so', () => {
    const away = setCamera(demo(), flatView({ x: -4000, y: 0 }, 0.05))
    expect(viewAt(compile(away), 0)).toBe(away.camera)
    expect(coversFrame(paperSheet, viewAt(compile(edits.setGround(away, { edge: 'held' })), 0), reference)).toBe(true)
  })

  it('tells its sharpness at the middle: of the uppermost sheet there that is mostly opaque', () => {
    const at = (journey: Journey) => centreSharpness(frameAt(compile(journey), 0))
    expect(at(demo())).toBeCloseTo(6400 / 1920, 6)
    const small = over({ place: { x: 3000, y: 1700, scale: 0.4, rotation: 0 } })
    expect(at({ ...demo(), sheets: [paperSheet, small] })).toBeCloseTo(6400 / 1920 / 0.4, 6)
    expect(at({ ...demo(), sheets: [paperSheet, { ...small, opacity: 0.3 }] })).toBeCloseTo(6400 / 1920, 6)
    expect(at({ ...demo(), sheets: [paperSheet, { ...small, vector: true }] })).toBe(Infinity)
    expect(at({ ...demo(), sheets: [] })).toBeUndefined()
    expect(sharpZoom(paperSheet, { width: 3840, height: 2160 })).toBe(0.5)
  })
})

describe('a pyramid', () => {
  it('halves down to one tile, and counts edge tiles by what is left', () => {
    expect(coarsestLevel({ width: 512, height: 300 })).toBe(0)
    expect(coarsestLevel({ width: 513, height: 300 })).toBe(1)
    expect(coarsestLevel({ width: 24_000, height: 16_000 })).toBe(6)
    expect(levelSize({ width: 1025, height: 777 }, 1)).toEqual({ width: 513, height: 389 })
    expect(tileGrid({ width: 1025, height: 777 }, 0)).toEqual({ columns: 3, rows: 2 })
    expect(tileSize({ width: 1025, height: 777 }, { level: 0, column: 2, row: 1 })).toEqual({ width: 1, height: 265 })
  })

  it('is asked for the coarsest level with a pixel for each output pixel; drawings go on below the finest', () => {
    const image = { width: 24_000, height: 16_000, vector: false }
    expect([8.1, 4, 3.99, 1, 0.2, 1e6].map((density) => levelFor(image, density))).toEqual([3, 2, 1, 0, 0, 6])
    expect([0.5, 0.26, 0.001].map((density) => levelFor({ ...image, vector: true }, density))).toEqual([-1, -2, -5])
  })
})

describe('the levels that a view shows of a sheet', () => {
  const huge = sheet({ width: 24_000, height: 16_000 })
  type Edge = 'plain' | 'mirrored'
  const shown = (laid: typeof huge, edge: Edge, view: View, scale = 1) => levelsFor(laid, edge, projectionOf(view, reference), scale)

  it('take as many tiles as the frame needs, however large the sheet', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2000, max: 120_000 }), number(0.01, 3), number(0, 1), number(0, 1), (width, zoom, u, v) => {
        const laid = sheet({ width, height: Math.round(width * 0.7) })
        const [finest] = shown(laid, 'plain', flatView({ x: u * laid.width, y: v * laid.height }, zoom))
        // At most two pixels to one each way, and a tile more on either side.
        expect(finest?.tiles.length ?? 0).toBeLessThanOrEqual(Math.ceil((2 * 1920) / TILE + 2) * Math.ceil((2 * 1080) / TILE + 2))
      }),
    )
  })

  it('have a tile for each spot of the sheet that the frame shows, mirrored or not, from whatever side it is looked at', () => {
    let seen = 0
    const views = fc.record({ pitch: fc.oneof(fc.constant(0), number(5, 65)), bearing: number(-180, 180), zoom: number(0.05, 1.5) })
    fc.assert(
      fc.property(
        views,
        anyPlace,
        number(-0.2, 1.2),
        number(-0.2, 1.2),
        fc.constantFrom<Edge>('plain', 'mirrored'),
        number(1, 2),
        (view, place, u, v, edge, scale) => {
          // prettier-ignore
          const laid = { ...huge, place }
          const centre = sheetToGround(place, { x: u * laid.width, y: v * laid.height })
          const projection = projectionOf({ centre, ...view, zoom: view.zoom / place.scale }, reference)
          const levels = levelsFor(laid, edge, projection, scale)
          for (let y = 0.25; y < 1080; y += 53.7) {
            const { level, coarser } = levelsOfRow(laid, rowDetail(laid, projection, y, scale))
            for (const needed of coarser > 0 ? [level, level + 1] : [level]) {
              for (let x = 0.5; x < 1920; x += 101.3) {
                const at = groundToSheet(place, projection.toGround({ x, y })!)
                // A mirrored sheet goes on for four times its size, no further.
                const fold = (value: number, length: number) => {
                  const copy = Math.floor(value / length)
                  if (edge === 'plain' ? copy !== 0 : Math.abs(copy) > 4) return undefined
                  return copy % 2 === 0 ? value - copy * length : (copy + 1) * length - value
                }
                const [across, down] = [fold(at.x, laid.width), fold(at.y, laid.height)]
                if (across === undefined || down === undefined) continue
                const address = {
                  level: needed,
                  column: Math.floor(across / 2 ** needed / TILE),
                  row: Math.floor(down / 2 ** needed / TILE),
                }
                expect(levels.find((entry) => entry.level === needed)?.tiles).toContainEqual(address)
                seen++
              }
            }
          }
        },
      ),
      { numRuns: 60 },
    )
    expect(seen).toBeGreaterThan(10_000)
  })

  it('are few where the ground is seen at a slant: no more than some times what the frame has pixels for', () => {
    const views = fc.record({ pitch: number(20, 65), bearing: number(-180, 180), zoom: number(0.3, 1.5) })
    fc.assert(
      // Up to a frame of 3840 pixels across.
      fc.property(views, number(1, 2), (view, scale) => {
        const levels = shown(huge, 'mirrored', { centre: { x: 12_000, y: 8000 }, ...view }, scale)
        const tiles = levels.reduce((sum, level) => sum + level.tiles.length, 0)
        // The painter keeps 320 of them, and samples one level after another.
        for (const level of levels) expect(level.tiles.length).toBeLessThanOrEqual(160)
        expect(tiles * TILE * TILE).toBeLessThan(16 * 1920 * 1080 * scale * scale + 16 * TILE * TILE)
      }),
      { numRuns: 60 },
    )
  })

  it('are none where the frame shows nothing of the sheet', () => {
    expect(shown(huge, 'plain', flatView({ x: -9e5, y: 0 }, 1))).toEqual([])
  })

  it('keep to the crop', () => {
    const cropped = sheet({ crop: { left: 1000, top: 1000, right: 1200, bottom: 1100 } })
    const [finest] = shown(cropped, 'plain', fittingView(cropped, reference))
    expect(finest).toMatchObject({ level: 0, part: { left: 1000, top: 1000, width: 200, height: 100 }, copies: 0 })
    expect(finest!.tiles).toEqual([1, 2].flatMap((row) => [1, 2].map((column) => ({ level: 0, column, row }))))
  })
})

describe('what is round a tile', () => {
  it('is as far as a blur reaches, and goes on mirrored beyond the image', () => {
    const wash = washSchema.parse({ blur: 8, glowingLines: { colour: '#ffffff', strength: 1, radius: 20 } })
    expect([washReach(wash, 0), washReach(wash, 2), washReach(washSchema.parse({}), 0)]).toEqual([60, 15, 0])
    const image = { width: 1200, height: 900 }
    const around = surroundings(image, { level: 0, column: 2, row: 0 }, 60)
    expect(around).toMatchObject({ left: 964, top: -60, width: 176 + 120, height: 512 + 120 })
    expect(around.tiles.map(({ column, row }) => [column, row])).toEqual([[1, 0], [2, 0], [1, 1], [2, 1]]) // prettier-ignore
  })
})

describe('edits of sheets', () => {
  it('lay the first so that its pixels become the ground’s unit, and what is there keeps its place in the frame', () => {
    const bare = { ...demo(), sheets: [] }
    const laid = edits.addSheet(bare, over())
    expect(laid.sheets[0]!.place).toEqual({ x: 0, y: 0, scale: 1, rotation: 0 })
    expect(coversFrame(laid.sheets[0]!, laid.camera, reference)).toBe(true)
    laid.stops.forEach((stop, i) => {
      const [a, b] = [
        projectionOf(bare.camera, reference).toScreen(bare.stops[i]!.at),
        projectionOf(laid.camera, reference).toScreen(stop.at),
      ]
      expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(1e-6)
    })
  })

  it('lay another into the middle of the frame, or where it belongs on the Earth', () => {
    const inset = edits.addSheet(demo(), over()).sheets[1]!
    const middle = sheetToGround(inset.place, { x: 500, y: 250 })
    expect(middle).toEqual(demo().camera.centre)
    const geo = groundGeo(demo())!
    const [nw, se] = [geo.toLonLat({ x: 1000, y: 1000 })!, geo.toLonLat({ x: 2000, y: 1500 })!]
    const points = [
      { id: 'a', name: '', at: { x: 0, y: 0 }, ...nw },
      { id: 'b', name: '', at: { x: 1000, y: 500 }, ...se },
    ]
    const town = edits.addSheet(demo(), over({ georeference: { kind: 'points', plane: 'mercator', fit: null, points } })).sheets[1]!
    const corner = sheetToGround(town.place, { x: 0, y: 0 })
    expect(Math.hypot(corner.x - 1000, corner.y - 1000)).toBeLessThan(2)
    expect(town.place.scale).toBeCloseTo(1, 2)
  })

  it('replace the map by the Earth: every stop keeps its longitude and latitude', () => {
    const journey = demo()
    const half: edits.SheetImage = {
      ...over(),
      width: 3200,
      height: 1800,
      georeference: {
        ...paperSheet.georeference!,
        points: (paperSheet.georeference as Extract<typeof paperSheet.georeference, { kind: 'points' }>).points.map((point) => ({
          ...point,
          at: { x: point.at.x / 2, y: point.at.y / 2 },
        })),
      } as Sheet['georeference'],
    }
    expect(edits.usualReplacement(paperSheet, half)).toEqual({ by: 'lonlat' })
    const replaced = edits.replaceSheet(journey, 'isles', half, { by: 'lonlat' })
    replaced.stops.forEach((stop, i) => {
      expect(stop.at.x).toBeCloseTo(journey.stops[i]!.at.x / 2, 6)
      expect(stop.at.y).toBeCloseTo(journey.stops[i]!.at.y / 2, 6)
    })
    expect(replaced.camera.zoom).toBeCloseTo(journey.camera.zoom * 2, 6)
    const length = (j: Journey) => compile(j).travellers[0]!.legs[0]!.course.length * j.camera.zoom
    expect(length(replaced)).toBeCloseTo(length(journey), 2)
    expect(parseJourney(JSON.parse(JSON.stringify(replaced)))).toEqual(replaced)
  })

  it('replace the map by two matched points, turned and scaled as they say', () => {
    const journey = demo()
    const turn = (p: { x: number; y: number }) => turnedAbout({ x: p.x * 0.5, y: p.y * 0.5 }, { x: 400, y: 300 }, 30)
    const [a, b] = [journey.stops[0]!.at, journey.stops[3]!.at]
    const pairs = [
      { ground: a, sheet: turn(a) },
      { ground: b, sheet: turn(b) },
    ] as const
    const replaced = edits.replaceSheet(journey, 'isles', over(), { by: 'points', pairs })
    replaced.stops.forEach((stop, i) => {
      const expected = turn(journey.stops[i]!.at)
      expect(Math.hypot(stop.at.x - expected.x, stop.at.y - expected.y)).toBeLessThan(1e-6)
    })
    expect(replaced.camera.zoom).toBeCloseTo(journey.camera.zoom * 2, 6)
  })

  it('replace an upper sheet where it lies', () => {
    const journey = { ...demo(), sheets: [paperSheet, over({ place: { x: 500, y: 400, scale: 2, rotation: 20 } })] }
    const next = edits.replaceSheet(journey, 'town', { ...over(), width: 2000, height: 1000 }, { by: 'frame' }).sheets[1]!
    expect(next.place.scale).toBe(1)
    const [was, is] = [sheetToGround(journey.sheets[1]!.place, { x: 500, y: 250 }), sheetToGround(next.place, { x: 1000, y: 500 })]
    expect(Math.hypot(was.x - is.x, was.y - is.y)).toBeLessThan(1e-9)
    expect(edits.replaceSheet(journey, 'town', over(), { by: 'frame' }).stops).toBe(journey.stops)
  })

  it('turn the first sheet with all that lies on it, and back without a trace', () => {
    const journey = demo()
    const turned = edits.turnSheet(journey, 'isles', 17)
    const onSheet = (j: Journey) => j.stops.map((stop) => groundToSheet(j.sheets[0]!.place, stop.at))
    onSheet(turned).forEach((p, i) => expect(Math.hypot(p.x - journey.stops[i]!.at.x, p.y - journey.stops[i]!.at.y)).toBeLessThan(1e-6))
    const back = edits.turnSheet(turned, 'isles', -17)
    back.stops.forEach((stop, i) =>
      expect(Math.hypot(stop.at.x - journey.stops[i]!.at.x, stop.at.y - journey.stops[i]!.at.y)).toBeLessThan(1e-6),
    )
  })

  it('straighten by a line: what leans a little comes to lie level, what nearly stands upright', () => {
    const level = edits.straightenSheet(demo(), 'isles', { x: 0, y: 0 }, { x: 1000, y: 100 })
    expect(level.sheets[0]!.place.rotation).toBeCloseTo((-Math.atan2(100, 1000) * 180) / Math.PI, 9)
    const upright = edits.straightenSheet(demo(), 'isles', { x: 0, y: 0 }, { x: 100, y: 1000 })
    expect(upright.sheets[0]!.place.rotation).toBeCloseTo((Math.atan2(100, 1000) * 180) / Math.PI, 9)
    expect(() => edits.straightenSheet(demo(), 'isles', { x: 5, y: 5 }, { x: 5, y: 5 })).toThrow(/has no length/)
  })

  it('crop to what was drawn, held within the sheet, and not to nothing', () => {
    const cropped = edits.cropSheet(demo(), 'isles', [
      { x: 3000, y: 2000 },
      { x: -50, y: 100 },
    ])
    expect(cropped.sheets[0]!.crop).toEqual({ left: 0, top: 100, right: 3000, bottom: 2000 })
    expect(edits.cropSheet(cropped, 'isles', null).sheets[0]!.crop).toBeNull()
    expect(() =>
      edits.cropSheet(demo(), 'isles', [
        { x: 10, y: 10 },
        { x: 20, y: 20 },
      ]),
    ).toThrow(/smaller than 16 pixels/)
  })

  it('restack, and take away', () => {
    const two = { ...demo(), sheets: [paperSheet, over()] }
    expect(edits.restackSheet(two, 'town', 0).sheets.map((s) => s.id)).toEqual(['town', 'isles'])
    expect(edits.removeSheet(two, 'isles').sheets.map((s) => s.id)).toEqual(['town'])
  })

  it('step back when the map becomes a panel, so that its edges show', () => {
    const panel = edits.setGround(demo(), { edge: 'panel' })
    const { x, y } = projectionOf(panel.camera, reference).toGround({ x: 0, y: 0 })!
    expect(x).toBeLessThan(0)
    expect(y).toBeLessThan(0)
  })
})

describe('sheets in a frame', () => {
  const kinds = (journey: Journey, t: number) =>
    frameAt(compile(journey), t).items.flatMap((item) => (item.kind === 'sheet' ? [[item.sheet.id, item.opacity]] : []))

  it('are seen during their span, with a fade at either end', () => {
    const shown = {
      from: { at: 'arrival' as const, stop: 'quillhaven', offset: 0 },
      to: { at: 'departure' as const, stop: 'quillhaven', offset: 1 },
      fade: 0.5,
    }
    const journey = parseJourney({ ...demo(), sheets: [paperSheet, over({ shown, opacity: 0.8 })] })
    const { arrive, leave } = compile(journey).travellers[0]!.visits[1]!
    expect(kinds(journey, arrive - 0.1)).toEqual([['isles', 1]])
    expect(kinds(journey, arrive + 0.25)[1]![1]).toBeCloseTo(0.4, 6)
    expect(kinds(journey, leave)[1]).toEqual(['town', 0.8])
    expect(kinds(journey, leave + 1.1)).toEqual([['isles', 1]])
    // The fade is smooth, not linear: a fifth of the way in it is 0.04 * (3 - 2 * 0.2) = 0.104 there.
    expect(kinds(journey, arrive + 0.1)[1]![1]).toBeCloseTo(0.8 * 0.104, 6)
  })

  it('let go of a stop that is removed', () => {
    const shown = { from: { at: 'arrival' as const, stop: 'quillhaven', offset: 0 }, to: { at: 'end' as const, offset: 0 }, fade: 0.5 }
    const journey = parseJourney({ ...demo(), sheets: [paperSheet, over({ shown })] })
    const without = removeStop(journey, 'quillhaven', 'traveller')
    expect(without.sheets[1]!.shown!.from).toEqual({ at: 'start', offset: 0 })
    // What was to be shown until that stop stays to the end.
    const until = { from: { at: 'start' as const, offset: 0 }, to: { at: 'departure' as const, stop: 'quillhaven', offset: 1 }, fade: 0.5 }
    const ended = removeStop(parseJourney({ ...demo(), sheets: [paperSheet, over({ shown: until })] }), 'quillhaven', 'traveller')
    expect(ended.sheets[1]!.shown!.to).toEqual({ at: 'end', offset: 0 })
    expect(kinds(ended, compile(ended).lastTime)).toHaveLength(2)
    expect(() => parseJourney(JSON.parse(JSON.stringify(without)))).not.toThrow()
    expect(() =>
      parseJourney({ ...journey, sheets: [{ ...over(), shown: { ...shown, from: { at: 'arrival', stop: 'nowhere' } } }] }),
    ).toThrow(/names the stop "nowhere"/)
  })

  it('for tracing are never in a film, and lie over the others at work', () => {
    const journey = { ...demo(), sheets: [paperSheet, over({ tracing: true, opacity: 0.5 })] }
    const compiled = compile(journey)
    const frame = frameAt(compiled, 3)
    expect(frame.items.filter((item) => item.kind === 'sheet')).toHaveLength(1)
    const working = withTracing(frame, compiled).items.map((item) => item.kind)
    expect(working.slice(0, 4)).toEqual(['ground', 'sheet', 'sheet', 'ink'])
    expect(withTracing(frameAt(compile(demo()), 3), compile(demo())).items.length).toBe(frame.items.length)
  })

  it('fade without a break, whatever the span', () => {
    const stops = new Map([['a', { arrive: 4, leave: 5 }]])
    const end = 10
    const always = compileSpan({ from: { at: 'start', offset: 0 }, to: { at: 'end', offset: 0 }, fade: 1 }, stops, end)
    expect([0, 5, 10].map((t) => visibilityAt(always, t))).toEqual([1, 1, 1])
    const short = compileSpan(
      { from: { at: 'arrival', stop: 'a', offset: 0 }, to: { at: 'departure', stop: 'a', offset: 0 }, fade: 3 },
      stops,
      end,
    )
    expect([3.99, 4.5, 5.01].map((t) => visibilityAt(short, t))).toEqual([0, 1, 0])
    for (let t = 3.9; t < 5.1; t += 0.01) expect(Math.abs(visibilityAt(short, t + 0.01) - visibilityAt(short, t))).toBeLessThan(0.05)
  })

  it('light areas above the map and under the trip', () => {
    const area = areaSchema.parse({
      id: 'land',
      name: 'Land',
      rings: [[0, 0, 10, 0, 10, 10]],
      shown: { from: { at: 'start', offset: 2 }, to: { at: 'end', offset: 0 } },
    })
    const journey = edits.addArea(demo(), area)
    expect(frameAt(compile(journey), 1).items.some((item) => item.kind === 'area')).toBe(false)
    expect(
      frameAt(compile(journey), 5)
        .items.map((item) => item.kind)
        .slice(0, 4),
    ).toEqual(['ground', 'sheet', 'area', 'ink'])
    expect(() => parseJourney({ ...demo(), areas: [{ ...area, rings: [[0, 0, 1, 1, 2, 2, 3]] }] })).toThrow(/an x without its y/)
  })
})

describe('a journey of version 1', () => {
  it('is read as one of the present version', () => {
    const old = {
      ...createJourney('Old'),
      version: 1,
      ground: '#102030',
      sheets: [{ name: 'Map', image: 'a'.repeat(64), width: 640, height: 360, wash: { blur: 3 } }],
      areas: undefined,
      creditLine: undefined,
    }
    const read = parseJourney(JSON.parse(JSON.stringify(old)))
    expect(read).toMatchObject({ version: 11, shots: [], ground: { colour: '#102030', edge: 'plain' }, areas: [], creditLine: false })
    expect(read.sheets[0]).toMatchObject({ id: 'sheet', place: { x: 0, y: 0, scale: 1, rotation: 0 }, wash: { blur: 3, tint: null } })
    expect(() => parseJourney({ ...JSON.parse(JSON.stringify(old)), sheets: 'none' })).toThrow(/sheets/)
  })
})

describe('credits', () => {
  it('name each source once in a line, and all of them in text, with a flag where no licence is noted', () => {
    const journey = { ...demo(), sheets: [paperSheet, over()], stops: demo().stops.map((stop) => ({ ...stop, found: true })) }
    expect(creditsText(journey).split('\n')).toEqual([
      'Lantern Isles: Lantern Isles by Zephyrine, CC0 1.0, made up for the demo',
      'Town: no source noted (licence not noted)',
      'Found places: Places by GeoNames, CC BY 4.0, geonames.org',
    ])
    expect(creditLine(journey)).toBe('Zephyrine (CC0 1.0) · GeoNames (CC BY 4.0)')
  })

  it('are shown in the last second, if wanted', () => {
    const journey = edits.setCreditLine(demo(), true)
    const credit = (t: number) => frameAt(compile(journey), t).items.find((item) => item.kind === 'credit')
    expect(credit(22)).toBeUndefined()
    expect(credit(23.5)).toMatchObject({ text: 'Zephyrine (CC0 1.0)', opacity: 1 })
    expect(frameAt(compile(demo()), 24).items.some((item) => item.kind === 'credit')).toBe(false)
  })
})

describe('regions', () => {
  it('go round places the short way, also over the antimeridian', () => {
    expect(
      regionAround([
        { lon: 10, lat: 50 },
        { lon: 20, lat: 54 },
      ]),
    ).toEqual({ west: 10, east: 20, south: 50, north: 54 })
    const pacific = regionAround([
      { lon: 178, lat: -18 },
      { lon: -172, lat: -14 },
    ])
    expect([pacific.west, pacific.east]).toEqual([178, -172])
    expect(regionAround([{ lon: 10, lat: 50 }], 6)).toEqual({ west: 7, east: 13, south: 48.5, north: 51.5 })
  })

  it('grow by a margin, at most to the whole Earth', () => {
    expect(withMargin({ west: 0, east: 10, south: 0, north: 10 }, 0.1)).toEqual({ west: -1, east: 11, south: -1, north: 11 })
    expect(withMargin({ west: -170, east: 170, south: -80, north: 80 }, 0.2)).toEqual({ west: -180, east: 180, south: -90, north: 90 })
  })
})

describe('the ground on the Earth', () => {
  it('is known by the lowest sheet that is georeferenced', () => {
    expect(groundGeo({ sheets: [over(), paperSheet] })!.sheet.id).toBe('isles')
    expect(groundGeo({ sheets: [over()] })).toBeUndefined()
    const moved = geoOfSheet({ ...paperSheet, place: { x: 100, y: 0, scale: 1, rotation: 0 } })!
    const still = geoOfSheet(paperSheet)!
    expect(moved.toLonLat({ x: 1100, y: 500 })).toEqual(still.toLonLat({ x: 1000, y: 500 }))
    expect(referenceSize(demo().frame)).toEqual(reference)
  })
})

describe('a region that is moved and zoomed', () => {
  it('keeps its size, and its middle', () => {
    expect(movedRegion({ west: 8, east: 12, south: 40, north: 42 }, 0.25, -0.5, 1)).toEqual({ west: 9, east: 13, south: 39, north: 41 })
    expect(movedRegion({ west: 8, east: 12, south: 40, north: 42 }, 0, 0, 0.5)).toEqual({ west: 9, east: 11, south: 40.5, north: 41.5 })
    expect(movedRegion({ west: 178, east: -178, south: 0, north: 2 }, 0, 0, 0.5)).toEqual({ west: 179, east: -179, south: 0.5, north: 1.5 })
  })

  it('is never larger than the Earth', () => {
    expect(movedRegion({ west: -100, east: 100, south: -60, north: 60 }, 0, 0.9, 4)).toEqual({
      west: -180,
      east: 180,
      south: -89,
      north: 89,
    })
  })
})
