import { mixColours } from '#core/colour/gradient'
import type { PinItem } from '#core/frame/frame'
import type { Pin } from '#core/journey/schema'
import type { CanvasSpace } from './canvas-space'
import { placeAt, standingScale } from './canvas-space'
import { LINE, PAPER, translucent } from './colour'
import type { Studio } from './studio'

type PinShape = Exclude<Pin['shape'], 'none'>

interface PinDrawing {
  /** SVG path data in hundredths of the pin's size, around its place; within PIN_BOXES of the core. */
  outline: string
  parts: readonly { d: string; paint: 'colour' | 'shade' | 'paper' | 'lamp' | 'line' }[]
}

const disc = (y: number, r: number): string => `M${-r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`

const LANTERN_BODY = 'M0 0L-7-22L-24-31L-31-43L-27-76L-13-87L13-87L27-76L31-43L24-31L7-22Z'
const FLAG = 'M3-98C20-105 36-88 64-95L50-78L64-59C40-53 22-69 3-60Z'

/** The pins, as pictures for both the painter and the interface. */
export const PIN_DRAWINGS: Record<PinShape, PinDrawing> = {
  lantern: {
    outline: LANTERN_BODY + disc(-91, 7),
    parts: [
      { d: 'M-7-90a7 7 0 1 1 14 0l-4 0a3 3 0 1 0-6 0Z', paint: 'line' },
      { d: LANTERN_BODY, paint: 'colour' },
      { d: 'M0 0L-7-22L-24-31L24-31L7-22Z', paint: 'shade' },
      { d: 'M-20-41L-23-46L-20-71L-10-79L10-79L20-71L23-46L20-41Z', paint: 'lamp' },
      { d: 'M-2-80h4v40h-4ZM-22-58h44v4h-44Z', paint: 'colour' },
    ],
  },
  pennant: {
    outline: `M-3-100h6v100h-6Z${FLAG}`,
    parts: [
      { d: FLAG, paint: 'colour' },
      { d: 'M3-98C10-101 17-100 24-98L24-64C17-65 10-64 3-60Z', paint: 'shade' },
      { d: `M-3-98a3 3 0 0 1 6 0v98h-6Z${disc(0, 6)}`, paint: 'line' },
    ],
  },
  bead: {
    outline: disc(0, 27),
    parts: [
      { d: disc(0, 27), paint: 'colour' },
      { d: disc(0, 15), paint: 'paper' },
      { d: disc(0, 8), paint: 'line' },
    ],
  },
}

export const pinPalette = (colour: string) => ({ colour, shade: mixColours(colour, LINE, 0.38), paper: PAPER, lamp: '#ffe3a0', line: LINE })

/** How far a pin reaches from its place, in pin sizes, its edge included. */
export const PIN_REACH = 1.1

/** Paints a pin standing at its place, with a light edge and a faint shadow at its foot. */
export function paintPin(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: PinItem): void {
  const { pin } = item
  if (pin.shape === 'none') return
  const drawing = PIN_DRAWINGS[pin.shape]
  const paints = pinPalette(pin.colour)
  placeAt(context, space, item.at, (standingScale(space, item.at) * item.scale * pin.size) / 100)
  context.globalAlpha = item.opacity
  context.fillStyle = translucent(LINE, 0.28)
  context.beginPath()
  if (pin.shape === 'bead') context.ellipse(2, 5, 32, 30, 0, 0, 2 * Math.PI)
  else context.ellipse(4, 1, 17, 6, 0, 0, 2 * Math.PI)
  context.fill()
  context.lineJoin = 'round'
  context.lineWidth = 9
  context.strokeStyle = PAPER
  context.stroke(studio.createPath(drawing.outline))
  for (const { d, paint } of drawing.parts) {
    context.fillStyle = paints[paint]
    context.fill(studio.createPath(d))
  }
  context.globalAlpha = 1
}
