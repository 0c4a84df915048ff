/** A text that comes letter by letter stands where the whole line does, so that nothing jumps when its last letter has come. */
import { expect, it } from 'vitest'
import { flatView, referenceSize } from '#core/camera/view'
import type { FrameItem } from '#core/frame/frame'
import { captionSchema, groundSchema } from '#core/journey/schema'
import { setBlock } from '#core/type/block'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'

const size = { width: 960, height: 540 }
const reference = referenceSize(size)

it.each([
  ['letter', 0],
  ['word', 0],
  ['letter', 1],
] as const)('by the %s, with kerning, and a shadow of %d', (by, shadow) => {
  // Pairs that fonts move together: AV, To, Wa, LT, "y.".
  const { style } = captionSchema.parse({
    id: 't',
    content: { kind: 'title', text: '' },
    // Light halos close to one another, on which a shadow would be seen.
    style: { size: 150, shadow, halo: { colour: '#ffffff', width: 0.2 }, plate: null },
  })
  const block = setBlock([{ text: 'AVATAR To Way. LTV' }], style, 3000)
  const pixelsAt = (elapsed: number | null) => {
    const caption = { kind: 'caption', id: 't', figure: { kind: 'text', block }, style, align: 'left', appears: { style: 'fade', by }, at: { x: 120, y: 300 }, elapsed, opacity: 1 } as FrameItem // prettier-ignore
    const ground: FrameItem = { kind: 'ground', ground: groundSchema.parse({ colour: '#102030' }) }
    const surface = createServerSurface(size.width, size.height)
    const frame = { time: 0, size, scale: 0.5, reference, view: flatView({ x: 0, y: 0 }, 1), isMoving: false, sun: null, items: [ground, caption], motions: [] } // prettier-ignore
    createPainter(createServerStudio('/nowhere')).paint(frame, surface.context, 0.5)
    return surface.pixels()
  }
  const [coming, settled] = [pixelsAt(1000), pixelsAt(null)]
  expect(Buffer.compare(settled, pixelsAt(0))).not.toBe(0)
  // Letters stand at fractions of a pixel; half a pixel off would be 100 steps and more at their edges.
  let most = 0
  coming.forEach((value, i) => (most = Math.max(most, Math.abs(value - settled[i]!))))
  expect(most).toBeLessThan(24)
})
