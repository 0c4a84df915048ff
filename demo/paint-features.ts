import { least } from '#core/geometry/extremes'
import type { SKRSContext2D } from '@napi-rs/canvas'
import { pointAt } from '#core/geometry/course'
import type { Course } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import { railwayCourse, roadCourses } from './courses'
import { seeded } from './noise'
import { woodland } from './paint-terrain'
import { SHEET, TOWNS } from './places'
import type { HeightField } from './terrain'

type Context = SKRSContext2D

/** Draws fields, trees, roads, the railway and towns over the terrain. */
export function paintFeatures(context: Context, relief: HeightField): void {
  const roads = roadCourses()
  const railway = railwayCourse()
  const clear = clearance([...roads, railway])
  fields(context, relief, clear)
  trees(context, relief, clear)
  for (const [width, colour] of [
    [15, '#8d7a5d'],
    [9, '#fbf3dc'],
  ] as const) {
    for (const road of roads) stroke(context, road, width, colour)
  }
  stroke(context, railway, 9, '#f4ecd8')
  stroke(context, railway, 5, '#3c3a44')
  stroke(context, railway, 14, '#3c3a44', [3, 17])
  for (const town of Object.values(TOWNS)) houses(context, relief, roads, town.at, town.size)
}

function stroke(context: Context, course: Course, width: number, colour: string, dashes: number[] = []): void {
  context.beginPath()
  for (let i = 0; i < course.points.length; i += 2) context.lineTo(course.points[i]!, course.points[i + 1]!)
  context.lineWidth = width
  context.strokeStyle = colour
  context.lineJoin = 'round'
  context.lineCap = dashes.length ? 'butt' : 'round'
  context.setLineDash(dashes)
  context.stroke()
  context.setLineDash([])
}

/** The distance of a place to the nearest course, up to a cell size of 60 px. */
function clearance(courses: readonly Course[]): (p: Point) => number {
  const cell = 60
  const cells = new Map<string, Point[]>()
  const key = (x: number, y: number) => `${Math.floor(x / cell)},${Math.floor(y / cell)}`
  for (const course of courses) {
    for (let s = 0; s <= course.length; s += 8) {
      const p = pointAt(course, s)
      const k = key(p.x, p.y)
      cells.set(k, [...(cells.get(k) ?? []), p])
    }
  }
  return (p) => {
    let nearest = cell
    for (const dx of [-cell, 0, cell]) {
      for (const dy of [-cell, 0, cell]) {
        for (const q of cells.get(key(p.x + dx, p.y + dy)) ?? []) nearest = Math.min(nearest, distance(p, q))
      }
    }
    return nearest
  }
}

/** Patchworks of fields on low, open ground, with strips of one direction in each patch. */
function fields(context: Context, relief: HeightField, clear: (p: Point) => number): void {
  const random = seeded(404)
  const wooded = woodland(relief)
  const crops = ['#d9c87c', '#c9cf86', '#b5c274', '#e2d49a', '#c7b06c', '#a9ba76']
  const suits = (x: number, y: number) => {
    const h = relief(x, y)
    return h > 0.016 && h < 0.17 && wooded(x, y) < -0.06 && Math.abs(relief(x + 12, y) - h) + Math.abs(relief(x, y + 12) - h) < 0.02
  }
  const towns = Object.values(TOWNS)
  for (let y = 40; y < SHEET.height - 40; y += 58) {
    for (let x = 40; x < SHEET.width - 40; x += 74) {
      const jx = x + (random() - 0.5) * 40
      const jy = y + (random() - 0.5) * 30
      const turn = Math.round(Math.sin(jx / 500) * 2 + Math.cos(jy / 400) * 2) * 0.34 + (random() - 0.5) * 0.12
      const [w, h] = [30 + random() * 18, 20 + random() * 14]
      const crop = crops[Math.floor(random() * crops.length)]!
      const nearTown = least(towns.map((town) => distance(town.at, { x: jx, y: jy }) / (0.5 + town.size)))
      if (nearTown > 520 * (0.4 + random()) || nearTown < 50) continue
      const corners = [
        [-w, -h],
        [w, -h],
        [w, h],
        [-w, h],
      ].map(([a, b]) => ({ x: jx + a! * Math.cos(turn) - b! * Math.sin(turn), y: jy + a! * Math.sin(turn) + b! * Math.cos(turn) }))
      if (!corners.every((p) => suits(p.x, p.y) && clear(p) > 14)) continue
      context.save()
      context.beginPath()
      for (const p of corners) context.lineTo(p.x, p.y)
      context.closePath()
      context.globalAlpha = 0.72
      context.fillStyle = crop
      context.fill()
      context.clip()
      context.globalAlpha = 0.16
      context.strokeStyle = '#6d6636'
      context.lineWidth = 1.6
      context.translate(jx, jy)
      context.rotate(turn)
      context.beginPath()
      for (let k = -h; k < h; k += 5) {
        context.moveTo(-w, k)
        context.lineTo(w, k)
      }
      context.stroke()
      context.restore()
      context.globalAlpha = 0.4
      context.strokeStyle = '#76803f'
      context.lineWidth = 2
      context.beginPath()
      for (const p of corners) context.lineTo(p.x, p.y)
      context.closePath()
      context.stroke()
      context.globalAlpha = 1
    }
  }
}

/** Single trees, lit from the north-west, where the woodland field is high. */
function trees(context: Context, relief: HeightField, clear: (p: Point) => number): void {
  const random = seeded(505)
  const wooded = woodland(relief)
  const greens = ['#5f8257', '#6b8d5c', '#557a55', '#769661']
  for (let y = 10; y < SHEET.height; y += 11) {
    for (let x = 10; x < SHEET.width; x += 12) {
      const px = x + (random() - 0.5) * 11
      const py = y + (random() - 0.5) * 10
      const wood = wooded(px, py)
      const size = 3.6 + random() * 3.4
      const green = greens[Math.floor(random() * greens.length)]!
      if (wood < 0 || random() > wood * 7 || clear({ x: px, y: py }) < 16) continue
      context.fillStyle = 'rgba(34,54,44,0.3)'
      context.beginPath()
      context.ellipse(px + size * 0.45, py + size * 0.5, size, size * 0.8, 0, 0, 7)
      context.fill()
      context.fillStyle = green
      context.beginPath()
      context.arc(px, py, size, 0, 7)
      context.fill()
      context.fillStyle = 'rgba(206,222,150,0.34)'
      context.beginPath()
      context.arc(px - size * 0.3, py - size * 0.34, size * 0.5, 0, 7)
      context.fill()
    }
  }
}

/** Houses along the streets of a town, denser towards its middle. */
function houses(context: Context, relief: HeightField, roads: readonly Course[], middle: Point, size: number): void {
  const random = seeded(Math.round(middle.x * 7 + middle.y))
  const roofs = ['#b4553d', '#a64a38', '#c2694a', '#94563f', '#8a6a5a']
  const placed: Point[] = []
  for (let i = 0; i < 520 * size; i++) {
    const angle = random() * 2 * Math.PI
    const r = Math.sqrt(random()) * 130 * (0.4 + size)
    const p = { x: middle.x + Math.cos(angle) * r, y: middle.y + Math.sin(angle) * r * 0.85 }
    const [w, h] = [11 + random() * 9, 9 + random() * 6]
    const roof = roofs[Math.floor(random() * roofs.length)]!
    if (relief(p.x, p.y) < 0.012 || placed.some((q) => distance(p, q) < 17)) continue
    const nearest = roads
      .flatMap((road) => Array.from({ length: Math.floor(road.length / 12) }, (_, k) => pointAt(road, k * 12)))
      .reduce((best, q) => Math.min(best, distance(p, q)), Infinity)
    if (nearest < 17 || (nearest > 60 && random() < 0.5)) continue
    placed.push(p)
    context.save()
    context.translate(p.x, p.y)
    context.rotate(Math.round(random() * 3) * 0.5 + random() * 0.15)
    context.fillStyle = 'rgba(40,34,30,0.35)'
    context.fillRect(-w / 2 + 2.5, -h / 2 + 3, w, h)
    context.fillStyle = roof
    context.fillRect(-w / 2, -h / 2, w, h)
    context.fillStyle = 'rgba(255,236,200,0.28)'
    context.fillRect(-w / 2, -h / 2, w, h / 2)
    context.restore()
  }
}
