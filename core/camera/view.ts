import type { Point } from '../geometry/point'

/** What the camera sees: the ground point at the middle of the frame, and the zoom in reference pixels per ground unit. */
export interface View {
  centre: Point
  zoom: number
}

export interface Size {
  width: number
  height: number
}

/** Reference pixels are pixels of a frame whose shorter side is 1080: a 4K export looks like the preview, only sharper. */
export const REFERENCE_SIDE = 1080

/** Output pixels per reference pixel. */
export const outputScale = ({ width, height }: Size): number => Math.min(width, height) / REFERENCE_SIDE

/** The frame's size in reference pixels. */
export function referenceSize(frame: Size): Size {
  const k = outputScale(frame)
  return { width: frame.width / k, height: frame.height / k }
}

/** Ground to screen, in reference pixels from the frame's upper left corner. */
export function toScreen(view: View, reference: Size, p: Point): Point {
  return {
    x: reference.width / 2 + (p.x - view.centre.x) * view.zoom,
    y: reference.height / 2 + (p.y - view.centre.y) * view.zoom,
  }
}

/** Screen to ground, the inverse of toScreen. */
export function toGround(view: View, reference: Size, p: Point): Point {
  return {
    x: view.centre.x + (p.x - reference.width / 2) / view.zoom,
    y: view.centre.y + (p.y - reference.height / 2) / view.zoom,
  }
}

/** The view zoomed by a factor so that the ground under a screen point (reference pixels) stays there. */
export function zoomedAbout(view: View, reference: Size, at: Point, factor: number): View {
  const ground = toGround(view, reference, at)
  const k = 1 / factor
  return {
    zoom: view.zoom * factor,
    centre: { x: ground.x + (view.centre.x - ground.x) * k, y: ground.y + (view.centre.y - ground.y) * k },
  }
}
