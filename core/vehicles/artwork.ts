/**
 * How a vehicle rides on a line. Its measures are in hundredths of its length, from the point that rides there: the middle of a vehicle seen from above, the
 * foot of the others.
 */
export interface Posture {
  /** A vehicle from above turns freely; one from the side is mirrored and leans; an upright one never turns. */
  view: 'above' | 'side' | 'upright'
  /** Direction the picture faces, in degrees clockwise from "to the right". */
  facing: number
  /** The most that a vehicle seen from the side leans, in degrees; 35 where nothing is said. Ships stay on an even keel. */
  mostLean?: number
  /** How far behind that point the ink ends, as a share of the vehicle's length: it must end under the picture. */
  inkBehind: number
  /** The box that the picture keeps to. */
  bounds: { left: number; top: number; right: number; bottom: number }
  /** Whether it rises over the ground while it travels, and casts a shadow. */
  flies?: true
}

/** A vehicle of the catalogue: shapes as SVG path data, 100 units long in the direction it faces, in back-to-front order. */
export interface Artwork extends Posture {
  name: string
  shapes: readonly Shape[]
}

export interface Shape {
  d: string
  fill?: Tone
  stroke?: Tone
  /** Stroke width in artwork units. */
  width?: number
}

/** The paints of an artwork: 'body' is the chosen colour, 'shade' and 'tint' derive from it, the others are fixed. */
export type Tone = 'body' | 'shade' | 'tint' | 'line' | 'glass' | 'paper' | 'lamp' | 'wood' | 'steel'

const circle = (x: number, y: number, r: number): string => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`
const box = (x: number, y: number, w: number, h: number, r = 0): string =>
  r === 0
    ? `M${x} ${y}h${w}v${h}h${-w}Z`
    : `M${x + r} ${y}h${w - 2 * r}a${r} ${r} 0 0 1 ${r} ${r}v${h - 2 * r}a${r} ${r} 0 0 1 ${-r} ${r}h${2 * r - w}a${r} ${r} 0 0 1 ${-r} ${-r}v${2 * r - h}a${r} ${r} 0 0 1 ${r} ${-r}Z`
const wheel = (x: number, r: number): Shape[] => [
  { d: circle(x, -r, r), fill: 'line' },
  { d: circle(x, -r, r * 0.45), fill: 'steel' },
]
const row = (n: number, x: number, step: number, shape: (x: number) => string): string =>
  Array.from({ length: n }, (_, i) => shape(x + i * step)).join('')

export const car: Artwork = {
  name: 'Car',
  view: 'above',
  facing: 0,
  inkBehind: 0.2,
  bounds: { left: -51, top: -26, right: 51, bottom: 26 },
  shapes: [
    { d: row(2, -36, 58, (x) => box(x, -25, 16, 50, 3)), fill: 'line' },
    { d: 'M-50-13C-50-20-45-23-37-23L32-22C44-21 50-14 50 0C50 14 44 21 32 22L-37 23C-45 23-50 20-50 13Z', fill: 'body' },
    { d: 'M26-17C38-15 44-10 45 0C44 10 38 15 26 17C30 7 30-7 26-17Z', fill: 'tint' },
    { d: 'M-24-17L9-17C12-7 12 7 9 17L-24 17C-27 7-27-7-24-17Z', fill: 'shade' },
    { d: 'M11-18L23-16C27-6 27 6 23 16L11 18C15 7 15-7 11-18Z', fill: 'glass' },
    { d: 'M-26-16L-36-15C-38-6-38 6-36 15L-26 16C-29 6-29-6-26-16Z', fill: 'glass' },
    { d: 'M41-17L47-11L45-7L39-14ZM41 17L47 11L45 7L39 14Z', fill: 'lamp' },
  ],
}

export const camper: Artwork = {
  name: 'Camper van',
  view: 'side',
  facing: 0,
  inkBehind: 0.15,
  bounds: { left: -51, top: -62, right: 51, bottom: 1 },
  shapes: [
    { d: 'M-37-58C-20-63 10-63 25-57C10-54-20-54-37-58Z', fill: 'lamp' },
    { d: box(-30, -56, 4, 6) + box(12, -56, 4, 6), fill: 'line' },
    { d: 'M-50-22L-49-45C-49-50-46-52-42-52L26-52C35-52 39-48 42-41L50-24L50-20Z', fill: 'paper' },
    { d: 'M-50-11L-50-25L50-25L50-14C50-10 48-8 45-8L-46-8C-49-8-50-9-50-11Z', fill: 'body' },
    { d: box(-50, -27, 100, 3.5), fill: 'shade' },
    { d: box(-43, -46, 17, 14, 3) + box(-22, -46, 22, 14, 3) + 'M6-46L26-46C30-46 32-44 34-40L38-32L6-32Z', fill: 'glass' },
    { d: box(2, -44, 1.6, 33), fill: 'shade' },
    { d: box(45, -20, 5, 5, 1.5), fill: 'lamp' },
    ...wheel(-29, 9.5),
    ...wheel(29, 9.5),
  ],
}

export const bus: Artwork = {
  name: 'Coach',
  view: 'side',
  facing: 0,
  inkBehind: 0.15,
  bounds: { left: -51, top: -47, right: 51, bottom: 1 },
  shapes: [
    { d: 'M-50-9L-50-37C-50-42-48-44-44-44L40-44C46-44 48-41 49-35L50-18L50-9C50-7 49-6 47-6L-47-6C-49-6-50-7-50-9Z', fill: 'body' },
    { d: 'M-50-9L-50-17L50-17L50-9C50-7 49-6 47-6L-47-6C-49-6-50-7-50-9Z', fill: 'shade' },
    { d: row(5, -45, 15.2, (x) => box(x, -38, 13.4, 14, 2)) + 'M32-38L42-38C44-38 45-36 45.5-33L47-22L32-22Z', fill: 'glass' },
    { d: box(-30, -46.5, 34, 3, 1.5), fill: 'steel' },
    { d: box(45, -16, 5, 4, 1.5), fill: 'lamp' },
    ...wheel(-30, 8.5),
    ...wheel(30, 8.5),
  ],
}

export const train: Artwork = {
  name: 'Night train',
  view: 'side',
  facing: 0,
  inkBehind: 0.2,
  bounds: { left: -52, top: -39, right: 51, bottom: 1 },
  shapes: [
    { d: row(4, -44, 12, (x) => circle(x, -3.4, 3.4)) + row(3, 14, 11, (x) => circle(x, -3.4, 3.4)), fill: 'line' },
    { d: box(-51, -9, 98, 4), fill: 'line' },
    { d: 'M-50-7L-50-26C-50-29-48-31-45-31L0-31C3-31 4-30 4-27L4-7Z', fill: 'body' },
    { d: 'M6-7L6-26C6-29 8-31 11-31L29-31C38-31 45-24 49-14L50-10C50-8 49-7 47-7Z', fill: 'body' },
    { d: box(-50, -15, 54, 3) + 'M6-15L48-15L49-12L6-12Z', fill: 'shade' },
    { d: row(5, -46, 9.8, (x) => box(x, -26, 7, 8, 1.5)) + box(10, -26, 7, 8, 1.5), fill: 'lamp' },
    { d: 'M25-27L31-27C36-26 40-22 43-18L25-18Z', fill: 'glass' },
    { d: 'M12-32L17-38L23-38M17-38L13-38', stroke: 'line', width: 1.6 },
    { d: circle(46.5, -11, 2), fill: 'lamp' },
  ],
}

export const ferry: Artwork = {
  name: 'Ferry',
  view: 'side',
  facing: 0,
  inkBehind: 0.25,
  mostLean: 7,
  bounds: { left: -51, top: -55, right: 51, bottom: 2 },
  shapes: [
    { d: box(-22, -47, 11, 15, 1), fill: 'body' },
    { d: box(-22, -43, 11, 4), fill: 'line' },
    { d: 'M-36-22L-36-35L22-35L28-29L32-22Z', fill: 'paper' },
    { d: 'M8-35L8-44L22-44L25-35Z', fill: 'paper' },
    { d: row(6, -32, 8, (x) => box(x, -31, 5, 5, 1)) + box(11, -42, 11, 4.5, 1), fill: 'glass' },
    { d: 'M-50-23L50-23C48-12 42-3 36 1L-42 1C-47-5-50-14-50-23Z', fill: 'body' },
    { d: 'M-47-9L44-9C41-4 38-1 36 1L-42 1C-44-2-46-5-47-9Z', fill: 'shade' },
    { d: box(-49, -20, 96, 2.2), fill: 'paper' },
    { d: 'M15-44L15-54M15-52L24-50L15-48', stroke: 'line', width: 1.4 },
  ],
}

export const sailboat: Artwork = {
  name: 'Sailing boat',
  view: 'side',
  facing: 0,
  inkBehind: 0.2,
  mostLean: 12,
  bounds: { left: -47, top: -100, right: 51, bottom: 3 },
  shapes: [
    { d: 'M1-14L1-98', stroke: 'wood', width: 3 },
    { d: 'M4-94C24-74 38-48 44-20L4-20Z', fill: 'paper' },
    { d: 'M-3-92C-6-66-18-40-38-20L-3-20Z', fill: 'body' },
    { d: 'M-3-66C-7-52-15-40-25-30L-3-30Z', fill: 'tint' },
    { d: 'M-46-13L50-15C46-6 38 0 28 2L-28 2C-38 1-44-5-46-13Z', fill: 'wood' },
    { d: 'M-46-13L50-15L48-11L-45.5-9Z', fill: 'paper' },
    { d: 'M1-98L-12-94L1-90Z', fill: 'shade' },
  ],
}

export const rowboat: Artwork = {
  name: 'Rowing boat',
  view: 'above',
  facing: 0,
  inkBehind: 0.3,
  bounds: { left: -48, top: -55, right: 51, bottom: 55 },
  shapes: [
    { d: 'M-2-16L-16-46M-2 16L-16 46', stroke: 'wood', width: 3 },
    { d: 'M-13-38L-22-52L-18-54L-10-40ZM-13 38L-22 52L-18 54L-10 40Z', fill: 'wood' },
    { d: 'M-46-13C-30-20 10-22 50 0C10 22-30 20-46 13C-48 5-48-5-46-13Z', fill: 'body' },
    { d: 'M-41-10C-28-15 8-16 40 0C8 16-28 15-41 10C-42 4-42-4-41-10Z', fill: 'wood' },
    { d: box(-30, -14, 7, 28, 1) + box(4, -14.5, 7, 29, 1), fill: 'tint' },
    { d: 'M-8-12C2-12 4-6 4 0C4 6 2 12-8 12C-12 7-12-7-8-12Z', fill: 'shade' },
    { d: circle(-4, 0, 7), fill: 'lamp' },
  ],
}

export const seaplane: Artwork = {
  name: 'Seaplane',
  view: 'above',
  facing: 0,
  inkBehind: 0.25,
  bounds: { left: -51, top: -59, right: 49, bottom: 59 },
  flies: true,
  shapes: [
    { d: 'M-24-19L30-19C37-19 40-17 42-15C40-13 37-11 30-11L-24-11ZM-24 19L30 19C37 19 40 17 42 15C40 13 37 11 30 11L-24 11Z', fill: 'steel' },
    { d: 'M2-58C12-60 18-56 18-50L18 50C18 56 12 60 2 58L0 50L0-50Z', fill: 'body' },
    { d: 'M2-58C12-60 18-56 18-50L18-40L0-40L0-50ZM2 58C12 60 18 56 18 50L18 40L0 40L0 50Z', fill: 'tint' },
    { d: 'M-48-20C-42-21-38-19-37-15L-37 15C-38 19-42 21-48 20Z', fill: 'shade' },
    { d: 'M-50-3L-20-7C5-10 30-9 38-6C42-4 44-2 44 0C44 2 42 4 38 6C30 9 5 10-20 7L-50 3Z', fill: 'paper' },
    { d: 'M-50-3L-20-7L-20 7L-50 3Z', fill: 'body' },
    { d: 'M18-6L27-6C30-3 30 3 27 6L18 6C20 3 20-3 18-6Z', fill: 'glass' },
    { d: 'M46-15L46 15', stroke: 'line', width: 2.4 },
    { d: circle(45, 0, 3.2), fill: 'line' },
  ],
}

export const airliner: Artwork = {
  name: 'Airliner',
  view: 'above',
  facing: -90,
  inkBehind: 0.3,
  bounds: { left: -52, top: -51, right: 52, bottom: 51 },
  flies: true,
  shapes: [
    { d: box(-27, -10, 7, 15, 3) + box(20, -10, 7, 15, 3), fill: 'steel' },
    { d: 'M-5-16L-50 16C-52 18-51 23-48 22L-5 12ZM5-16L50 16C52 18 51 23 48 22L5 12Z', fill: 'body' },
    { d: 'M-3 32L-20 44L-19 48L-2 44ZM3 32L20 44L19 48L2 44Z', fill: 'body' },
    { d: 'M0-50C5-46 7-38 7-30L7 24C6 34 4 44 0 50C-4 44-6 34-7 24L-7-30C-7-38-5-46 0-50Z', fill: 'paper' },
    { d: 'M-1.6 28L1.6 28L1.2 50L-1.2 50Z', fill: 'shade' },
    { d: 'M-5-38C-3-42 3-42 5-38L4-35C2-37-2-37-4-35Z', fill: 'line' },
    { d: 'M-5.4-26L-5.4 20M5.4-26L5.4 20', stroke: 'glass', width: 1.4 },
  ],
}

export const bicycle: Artwork = {
  name: 'Bicycle',
  view: 'side',
  facing: 0,
  inkBehind: 0.32,
  bounds: { left: -50, top: -115, right: 50, bottom: 1 },
  shapes: [
    { d: circle(-29, -20, 18.5) + circle(29, -20, 18.5), stroke: 'line', width: 4 },
    { d: 'M-29-20L-3-20L17-46L-15-46L-3-20M-29-20L-17-52M29-20L15-56L23-60', stroke: 'body', width: 4 },
    { d: 'M-24-54L-10-54', stroke: 'line', width: 5 },
    { d: 'M-2-20L6-14', stroke: 'line', width: 3.4 },
    { d: 'M-16-60C-14-78-4-92 6-92C12-92 14-88 12-82L2-60L8-40L8-16L2-16L0-38L-10-54Z', fill: 'shade' },
    { d: 'M6-84L14-68L24-62', stroke: 'lamp', width: 5 },
    { d: circle(14, -102, 9), fill: 'lamp' },
    { d: 'M4-103C4-112 10-115 16-114C22-113 25-108 25-103Z', fill: 'body' },
  ],
}

export const motorbike: Artwork = {
  name: 'Motorbike',
  view: 'side',
  facing: 0,
  inkBehind: 0.3,
  bounds: { left: -49, top: -92, right: 50, bottom: 1 },
  shapes: [
    { d: circle(-32, -16, 13) + circle(33, -16, 13), stroke: 'line', width: 7 },
    { d: 'M33-16L20-48L14-50M-32-16L-8-20L10-20', stroke: 'steel', width: 4 },
    { d: box(-12, -32, 24, 17, 4), fill: 'steel' },
    { d: 'M-42-40L-14-38C-4-44 12-46 20-42L24-34L6-28L-20-29Z', fill: 'body' },
    { d: 'M-40-43L-8-42L-12-37L-40-39Z', fill: 'line' },
    { d: 'M-18-44C-16-60-6-72 4-72C10-72 12-66 10-60L0-46L10-36L6-24L0-26L2-36L-12-40Z', fill: 'shade' },
    { d: 'M4-66L12-54L19-52', stroke: 'shade', width: 5.5 },
    { d: circle(10, -81, 10), fill: 'body' },
    { d: 'M12-84L20-84L19-77L12-77Z', fill: 'glass' },
    { d: circle(24, -44, 4), fill: 'lamp' },
  ],
}

export const walker: Artwork = {
  name: 'Walker',
  view: 'upright',
  facing: 0,
  inkBehind: 0,
  bounds: { left: -35, top: -119, right: 41, bottom: 3 },
  shapes: [
    { d: 'M30-58L38 0', stroke: 'wood', width: 4 },
    { d: 'M-15-44L-4-44L-5-2L-18-2ZM4-44L15-44L18-2L5-2Z', fill: 'line' },
    { d: box(-20, -4, 16, 6, 2) + box(4, -4, 16, 6, 2), fill: 'wood' },
    { d: 'M-22-82C-22-90-14-93 0-93C14-93 22-90 22-82L20-40L-20-40Z', fill: 'tint' },
    { d: 'M-20-84L-30-62L-28-48M20-84L29-70L31-58', stroke: 'tint', width: 8 },
    { d: box(-17, -88, 34, 44, 8), fill: 'body' },
    { d: box(-12, -66, 24, 18, 5), fill: 'shade' },
    { d: box(-18, -97, 36, 11, 5.5), fill: 'wood' },
    { d: circle(0, -106, 10), fill: 'lamp' },
    { d: 'M-17-107C-12-110-11-118 0-118C11-118 12-110 17-107Z', fill: 'shade' },
  ],
}

export const balloon: Artwork = {
  name: 'Balloon',
  view: 'upright',
  facing: 0,
  inkBehind: 0,
  bounds: { left: -51, top: -143, right: 51, bottom: 2 },
  flies: true,
  shapes: [
    { d: 'M-18-46L-8-16M18-46L8-16M-6-44L-3-16M6-44L3-16', stroke: 'line', width: 1.5 },
    { d: 'M0-142C30-142 50-122 50-97C50-76 32-58 18-45L-18-45C-32-58-50-76-50-97C-50-122-30-142 0-142Z', fill: 'body' },
    { d: 'M0-142C20-140 28-120 28-97C28-76 18-58 10-45L-10-45C-18-58-28-76-28-97C-28-120-20-140 0-142Z', fill: 'paper' },
    { d: 'M0-142C8-138 11-120 11-97C11-76 8-58 5-45L-5-45C-8-58-11-76-11-97C-11-120-8-138 0-142Z', fill: 'body' },
    { d: 'M-19-48L19-48L16-43L-16-43Z', fill: 'shade' },
    { d: 'M-10-17L10-17L8-1C8 0 7 1 6 1L-6 1C-7 1-8 0-8-1Z', fill: 'wood' },
  ],
}
