import type { Artwork } from './artwork'
import { box, circle, row, wheel } from './shapes'

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

export const steamer: Artwork = {
  name: 'Steam engine',
  view: 'side',
  facing: 0,
  inkBehind: 0.2,
  bounds: { left: -51, top: -66, right: 52, bottom: 1 },
  shapes: [
    { d: 'M31-62C36-60 40-62 42-66L26-66C28-62 29-60 31-62Z' + box(29, -62, 9, 22), fill: 'line' },
    { d: circle(8, -44, 6) + box(2, -44, 12, 8), fill: 'lamp' },
    { d: 'M-20-14L-20-40L40-40C45-40 48-34 48-28C48-22 45-16 40-16L-20-14Z', fill: 'body' },
    { d: row(3, -4, 15, (x) => box(x, -40, 2.4, 25)), fill: 'lamp' },
    { d: 'M-50-14L-50-56L-54-60L-16-60L-18-14Z', fill: 'shade' },
    { d: box(-44, -52, 16, 16, 2), fill: 'glass' },
    { d: box(-50, -17, 96, 5), fill: 'line' },
    { d: 'M44-14L52-2L40-2L40-14Z', fill: 'body' },
    { d: circle(46, -28, 3.4), fill: 'lamp' },
    ...wheel(-34, 12),
    ...wheel(-7, 12),
    ...wheel(18, 9),
    ...wheel(35, 6),
    { d: 'M-34-12L18-9', stroke: 'steel', width: 3 },
  ],
}

export const tram: Artwork = {
  name: 'Tram',
  view: 'side',
  facing: 0,
  inkBehind: 0.2,
  bounds: { left: -51, top: -72, right: 51, bottom: 1 },
  shapes: [
    { d: 'M-8-56L4-64L-6-71L10-71', stroke: 'line', width: 2 },
    { d: box(-34, -59, 68, 5, 2), fill: 'steel' },
    { d: 'M-50-12L-49-46C-48-52-45-55-40-55L40-55C45-55 48-52 49-46L50-12C50-9 48-7 45-7L-45-7C-48-7-50-9-50-12Z', fill: 'paper' },
    { d: 'M-50-12L-50-27L50-27L50-12C50-9 48-7 45-7L-45-7C-48-7-50-9-50-12Z', fill: 'body' },
    { d: box(-50, -29, 100, 3), fill: 'shade' },
    { d: row(4, -30, 17, (x) => box(x, -48, 13, 16, 2)) + 'M-46-32L-45-44C-44-47-42-48-39-48L-35-48L-35-32ZM46-32L45-44C44-47 42-48 39-48L38-48L38-32Z', fill: 'glass' },
    { d: box(-14, -48, 13, 41, 2) + box(3, -48, 13, 41, 2), stroke: 'shade', width: 1.4 },
    { d: circle(45, -18, 2.8) + circle(-45, -18, 2.8), fill: 'lamp' },
    ...wheel(-30, 6.5),
    ...wheel(-17, 6.5),
    ...wheel(17, 6.5),
    ...wheel(30, 6.5),
  ],
}

export const railcar: Artwork = {
  name: 'Railcar from above',
  view: 'above',
  facing: 0,
  inkBehind: 0.25,
  bounds: { left: -52, top: -14, right: 52, bottom: 14 },
  shapes: [
    { d: 'M-51-9L-45-12L-3-12L-3 12L-45 12L-51 9Z', fill: 'body' },
    { d: 'M3-12L38-12C46-12 51-6 51 0C51 6 46 12 38 12L3 12Z', fill: 'body' },
    { d: box(-4, -8, 8, 16, 2), fill: 'line' },
    { d: box(-46, -8, 41, 16, 2) + 'M5-8L36-8C39-5 39 5 36 8L5 8Z', fill: 'tint' },
    { d: 'M39-9C44-8 48-4 48 0C48 4 44 8 39 9C42 4 42-4 39-9Z', fill: 'glass' },
    { d: box(-40, -5, 12, 10, 2) + box(-20, -5, 10, 10, 2) + box(12, -5, 12, 10, 2), fill: 'steel' },
    { d: 'M-30-10L-26 0L-30 10', stroke: 'line', width: 1.8 },
  ],
}
