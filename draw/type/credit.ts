import type { CreditItem } from '#core/frame/frame'
import type { CanvasSpace } from '../canvas-space'
import { placeInFrame } from '../canvas-space'
import { setFont } from './fonts'
import type { Region } from '../region'

/** Letter size and distance from the frame's edges, in reference pixels. */
const SIZE = 24
const MARGIN = 28

/** Paints the line that names the sources, into the lower right corner; one too long for the frame is set narrower. */
export function paintCredit(context: CanvasRenderingContext2D, space: CanvasSpace, { text, opacity }: CreditItem): void {
  const { width, height } = space.reference
  placeInFrame(context, space)
  context.globalAlpha = opacity
  setFont(context, SIZE)
  context.textAlign = 'right'
  context.textBaseline = 'alphabetic'
  context.lineJoin = 'round'
  context.lineWidth = SIZE * 0.22
  context.strokeStyle = '#14233a'
  context.strokeText(text, width - MARGIN, height - MARGIN, width - 2 * MARGIN)
  context.fillStyle = '#fdf8ec'
  context.fillText(text, width - MARGIN, height - MARGIN, width - 2 * MARGIN)
  context.globalAlpha = 1
}

/** What the line covers at most, in output pixels. */
export function creditBounds({ scale, reference: { width, height } }: CanvasSpace): Region {
  const tall = MARGIN + SIZE * 1.5
  return { x: 0, y: (height - tall) * scale, width: width * scale, height: tall * scale }
}
