/** A camera that is held by hand: it sways within what is set, smoothly, the same at every time, and shows nothing beyond what it showed on a stand. */
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { frameCorners } from '#core/camera/projection'
import { swayed } from '#core/camera/handheld'
import { filmedAt, viewAt } from '#core/camera/view-track'
import { referenceSize } from '#core/camera/view'
import { setHandheld } from '#core/edits/journey'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { handheldSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { demo, movingDemo } from '../support/journeys'

const reference = referenceSize({ width: 1920, height: 1080 })
const view = { centre: { x: 1000, y: 600 }, zoom: 0.8, bearing: 30, pitch: 0 }
const hand = { px: 20, degrees: 1.5, seed: 3 }
const STEP = 1 / 120
const seen = Array.from({ length: 120 * 60 }, (_, i) => swayed(view, hand, i * STEP, reference))

describe('a handheld camera', () => {
  it('sways as far as is set and no further, about where it looks', () => {
    const off = seen.map(({ centre, zoom, bearing }) => [Math.abs(centre.x - 1000) * zoom, Math.abs(centre.y - 600) * zoom, Math.abs(bearing - 30)]) // prettier-ignore
    const most = [0, 1, 2].map((k) => Math.max(...off.map((of) => of[k]!)))
    // Across and down each 20 px at most, seen at 30 degrees.
    for (const px of most.slice(0, 2)) expect(px).toBeLessThan(20 * (Math.cos(Math.PI / 6) + 0.5))
    expect(most[2]).toBeLessThan(1.5)
    for (const px of most.slice(0, 2)) expect(px).toBeGreaterThan(8)
    expect(most[2]).toBeGreaterThan(0.6)
    const mean = seen.reduce((sum, { centre }) => sum + centre.x, 0) / seen.length
    expect(Math.abs(mean - 1000) * 0.8).toBeLessThan(4)
  })

  it('is smooth to the second derivative, slower than a shake, and never at rest for long', () => {
    const xs = seen.map(({ centre, zoom }) => centre.x * zoom)
    const speeds = xs.slice(1).map((x, i) => (x - xs[i]!) / STEP)
    const accelerations = speeds.slice(1).map((v, i) => (v - speeds[i]!) / STEP)
    const most = Math.max(...accelerations.map(Math.abs))
    const jumps = accelerations.slice(1).map((a, i) => Math.abs(a - accelerations[i]!))
    expect(Math.max(...jumps) / most).toBeLessThan(0.12)
    // Of 20 px, in px a second.
    expect(Math.max(...speeds.map(Math.abs))).toBeLessThan(120)
    for (let i = 0; i + 240 < speeds.length; i += 120) expect(Math.max(...speeds.slice(i, i + 240).map(Math.abs))).toBeGreaterThan(1)
  })

  it('shows nothing that was not in the frame, and is another one with another seed, the same with the same', () => {
    const still = projectionOf(view, reference)
    for (let i = 0; i < seen.length; i += 37)
      for (const corner of frameCorners(projectionOf(seen[i]!, reference))) {
        const { x, y } = still.toScreen(corner)
        expect(Math.min(x, y, reference.width - x, reference.height - y)).toBeGreaterThan(-1e-6)
      }
    expect(swayed(view, hand, 3.3, reference)).toEqual(swayed(view, hand, 3.3, reference))
    expect(swayed(view, hand, 3.3, reference)).not.toEqual(swayed(view, { ...hand, seed: 4 }, 3.3, reference))
  })

  it('is filmed so in every frame, while the camera’s own view stays what it is', () => {
    for (const journey of [demo(), movingDemo()]) {
      const held = compile(setHandheld(journey, handheldSchema.parse({})), NO_PLACES)
      const onStand = compile(journey, NO_PLACES)
      for (const t of [0, 3.3, 12]) {
        expect(viewAt(held, t)).toEqual(viewAt(onStand, t))
        expect(frameAt(held, t).view).toEqual(filmedAt(held, t))
        expect(frameAt(held, t).view).not.toEqual(frameAt(onStand, t).view)
        expect(frameAt(held, t).isMoving).toBe(true)
        expect(frameAt(compile(setHandheld(held.journey, null), NO_PLACES), t)).toEqual(frameAt(onStand, t))
      }
    }
  })
})
