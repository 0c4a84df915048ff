import type { InkItem } from '#core/frame/frame'
import type { DashPattern, Stretch } from '#core/geometry/stroke'
import { stretchesBetween } from '#core/geometry/stroke'
import type { Glow, Ink } from '#core/journey/schema'
import type { CanvasSpace } from './canvas-space'
import { placeInFrame } from './canvas-space'
import type { Region } from './region'
import type { SeenLine, Stroke } from './stroke'
import { paintLines, seenLines } from './stroke'
import type { Surface } from './studio'

/** The glow is blurred at this share of the output's size: it looks the same, and costs a sixteenth. */
const GLOW_SCALE = 0.25

/** A dash of no length with round caps is a dot; some canvases leave out dashes of exactly no length. In reference pixels. */
const DOT = 0.01

/** A glow's stroke is wider than the ink by this share of its radius, and blurred by this share of it (as a standard deviation). */
const GLOW_WIDTH = 0.8
const GLOW_BLUR = 0.3

/** How far ink reaches from its course, in reference pixels: half a width (and the corner of a square cap), or where its glow has faded. */
export function inkReach({ width, glow }: Ink): number {
  const edge = width * Math.SQRT1_2
  // A Gaussian has faded to a hundredth at three standard deviations; a pixel more on the glow's coarse canvas.
  return glow ? edge + glow.radius * (GLOW_WIDTH / 2 + 3 * GLOW_BLUR) + 2 / GLOW_SCALE : edge + 1
}

/**
 * Paints the ink of a leg, its glow under it.
 * @param bounds what the ink covers, in output pixels
 * @param glowSurface gives a cleared surface of the size asked for
 */
export function paintInk(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  item: InkItem,
  bounds: Region,
  glowSurface: (width: number, height: number) => Surface,
): void {
  const { ink } = item
  const lines = seenLines(space.projection, item.course, stretchesOf(space, item))
  if (ink.glow) paintGlow(context, space, lines, ink, ink.glow, bounds, glowSurface)
  placeInFrame(context, space)
  context.strokeStyle = ink.colour
  paintLines(context, space.projection, lines, strokeOf(ink))
}

const strokeOf = ({ line, width, cap }: Ink): Stroke => ({ width, cap: line === 'dotted' ? 'round' : cap })

/** The stretches of an ink's course that are stroked. */
export function stretchesOf({ projection }: CanvasSpace, { tail, head, phase, patternZoom, ink }: InkItem): Stretch[] {
  return stretchesBetween(tail, head, patternOn(ink, patternZoom, projection.view.zoom), phase, DOT / projection.view.zoom)
}

/** The shortest dash with caps, in stroke widths: a shorter one would look like a dot. */
const SHORTEST_DASH = 1.5

/**
 * Dash and space in reference pixels: caps reach half a stroke width past a dash, so dashes are shortened to look as long as asked. Where they would be
 * too short to see, both grow in proportion. Null for a solid line.
 */
export function dashPattern(ink: Ink): { dash: number; space: number } | null {
  switch (ink.line) {
    case 'solid':
      return null
    case 'dotted':
      return { dash: DOT, space: ink.width + ink.gap - DOT }
    case 'dashed': {
      if (ink.cap === 'butt') return { dash: ink.dash, space: ink.gap }
      const growth = Math.max(1, (SHORTEST_DASH * ink.width) / ink.dash)
      return { dash: growth * ink.dash - ink.width, space: growth * ink.gap + ink.width }
    }
    default:
      return ink.line satisfies never
  }
}

/**
 * The pattern on the ground. It is measured at the zoom at which its leg is travelled and stands still while the view zooms; as caps keep their size in the
 * frame, dashes are drawn longer or shorter for them, so that what is seen of them keeps its length on the ground. Dots stay round.
 */
function patternOn(ink: Ink, patternZoom: number, zoom: number): DashPattern | null {
  const pattern = dashPattern(ink)
  if (!pattern) return null
  const caps = ink.line === 'dashed' && ink.cap !== 'butt' ? ink.width : 0
  const longer = ink.line === 'dotted' ? DOT / zoom - DOT / patternZoom : caps / patternZoom - caps / zoom
  return { dash: pattern.dash / patternZoom, space: pattern.space / patternZoom, longer }
}

function paintGlow(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  lines: readonly SeenLine[],
  ink: Ink,
  glow: Glow,
  bounds: Region,
  glowSurface: (width: number, height: number) => Surface,
): void {
  const scale = space.scale * GLOW_SCALE
  const surface = glowSurface(Math.ceil(space.reference.width * scale), Math.ceil(space.reference.height * scale))
  const layer = surface.context
  const stroke = { ...strokeOf(ink), width: ink.width + glow.radius * GLOW_WIDTH }
  placeInFrame(layer, { scale })
  layer.strokeStyle = glow.colour
  // The light of neighbouring bands adds up to that of a whole line.
  layer.globalCompositeOperation = 'lighter'
  for (const { depth, lines: band } of space.projection.isFlat ? [{ depth: 1, lines }] : byDepth(lines)) {
    layer.filter = `blur(${glow.radius * GLOW_BLUR * depth * scale}px)`
    paintLines(layer, space.projection, band, stroke)
  }
  layer.globalCompositeOperation = 'source-over'
  layer.filter = 'none'
  const { x, y, width, height } = bounds
  const k = GLOW_SCALE
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = glow.strength
  context.drawImage(surface.image, x * k, y * k, width * k, height * k, x, y, width, height)
  context.globalAlpha = 1
}

/** Lines within a band of depth are blurred by one radius; from one band to the next it grows by this factor. */
const BAND = 1.25

/** Lines cut into bands by how far away they are, and the scale in the middle of each. */
function byDepth(lines: readonly SeenLine[]): { depth: number; lines: SeenLine[] }[] {
  const bands = new Map<number, SeenLine[]>()
  for (const line of lines) {
    let [part, of]: [SeenLine, number] = [[], NaN]
    for (let i = 0; i + 2 < line.length; i += 3) {
      const band = Math.round(Math.log(line[i + 2]!) / Math.log(BAND))
      part.push(line[i]!, line[i + 1]!, line[i + 2]!)
      if (band === of) continue
      part = line.slice(i, i + 3)
      of = band
      const known = bands.get(band)
      if (known) known.push(part)
      else bands.set(band, [part])
    }
  }
  return [...bands].map(([band, parts]) => ({ depth: BAND ** band, lines: parts.filter((part) => part.length > 3) }))
}
