import type { MapNameItem } from '#core/frame/frame'
import type { Appears } from '#core/journey/schema'
import { middleOf } from '#core/labels/map-names'
import { labelBox } from '#core/marks/label-layout'
import type { CanvasSpace } from '../canvas-space'
import { placeAt, standingScale } from '../canvas-space'
import type { Region } from '../region'
import { paintText } from './text'

/** It fades as a whole: see createFader. */
const SETTLED: Appears = { style: 'none', by: 'whole' }

/** How far letters may stray beyond their line, in letter sizes: below it, and by their rim. */
const REACH = 0.4

/** Paints the name of a country or a sea about the middle of its place. */
export function paintMapName(context: CanvasRenderingContext2D, space: CanvasSpace, { at, block, style, scale }: MapNameItem): void {
  const standing = standingScale(space, at) * scale
  placeAt(context, space, at, standing)
  paintText(context, {
    block,
    style,
    ...middleOf(block),
    appears: SETTLED,
    parts: 1,
    elapsed: null,
    pivot: { x: 0, y: 0 },
    scale: space.scale * standing,
    fall: { x: 0, y: 1 },
  })
}

/** The bounds of a name on the map, in output pixels. */
export function mapNameBounds(space: CanvasSpace, { at, block, style, scale }: MapNameItem): Region {
  const { left, right, top, bottom } = labelBox({ block, ...middleOf(block) }, style)
  const { x, y } = space.projection.toScreen(at)
  const k = standingScale(space, at) * scale
  const room = REACH * style.size + 0.04 * (right - left)
  return {
    x: (x + k * (left - room)) * space.scale,
    y: (y + k * (top - room)) * space.scale,
    width: k * (right - left + 2 * room) * space.scale,
    height: k * (bottom - top + 2 * room) * space.scale,
  }
}
