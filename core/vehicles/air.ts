import type { Artwork } from './artwork'
import { box, circle, row } from './shapes'

export const seaplane: Artwork = {
  name: 'Seaplane',
  medium: 'air',
  speed: 220,
  voice: 'aircraft',
  view: 'above',
  facing: 0,
  inkBehind: 0.25,
  bounds: { left: -51, top: -59, right: 49, bottom: 59 },
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
  medium: 'air',
  speed: 850,
  voice: 'aircraft',
  view: 'above',
  facing: -90,
  inkBehind: 0.3,
  bounds: { left: -52, top: -51, right: 52, bottom: 51 },
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

export const balloon: Artwork = {
  name: 'Balloon',
  medium: 'air',
  speed: 20,
  voice: 'none',
  view: 'upright',
  facing: 0,
  inkBehind: 0,
  bounds: { left: -51, top: -143, right: 51, bottom: 2 },
  shapes: [
    { d: 'M-18-46L-8-16M18-46L8-16M-6-44L-3-16M6-44L3-16', stroke: 'line', width: 1.5 },
    { d: 'M0-142C30-142 50-122 50-97C50-76 32-58 18-45L-18-45C-32-58-50-76-50-97C-50-122-30-142 0-142Z', fill: 'body' },
    { d: 'M0-142C20-140 28-120 28-97C28-76 18-58 10-45L-10-45C-18-58-28-76-28-97C-28-120-20-140 0-142Z', fill: 'paper' },
    { d: 'M0-142C8-138 11-120 11-97C11-76 8-58 5-45L-5-45C-8-58-11-76-11-97C-11-120-8-138 0-142Z', fill: 'body' },
    { d: 'M-19-48L19-48L16-43L-16-43Z', fill: 'shade' },
    { d: 'M-10-17L10-17L8-1C8 0 7 1 6 1L-6 1C-7 1-8 0-8-1Z', fill: 'wood' },
  ],
}

export const helicopter: Artwork = {
  name: 'Helicopter',
  medium: 'air',
  speed: 220,
  voice: 'aircraft',
  view: 'above',
  facing: 0,
  inkBehind: 0.2,
  bounds: { left: -51, top: -43, right: 51, bottom: 43 },
  shapes: [
    { d: box(-14, -18, 46, 3, 1.5) + box(-14, 15, 46, 3, 1.5), fill: 'steel' },
    { d: 'M-14-4L-48-2L-48 2L-14 4Z', fill: 'shade' },
    { d: box(-50, -9, 6, 18, 2), fill: 'body' },
    { d: 'M-18-8C-10-14 14-15 26-12C36-9 40-4 40 0C40 4 36 9 26 12C14 15-10 14-18 8C-21 4-21-4-18-8Z', fill: 'body' },
    { d: 'M20-11C32-10 38-4 38 0C38 4 32 10 20 11C24 4 24-4 20-11Z', fill: 'glass' },
    { d: 'M-30-30L44 30M-23 37L37-37', stroke: 'line', width: 3.2 },
    { d: circle(7, 0, 4.5), fill: 'steel' },
  ],
}

export const jet: Artwork = {
  name: 'Jet from the side',
  medium: 'air',
  speed: 850,
  voice: 'aircraft',
  view: 'side',
  facing: 0,
  inkBehind: 0.3,
  mostLean: 12,
  bounds: { left: -51, top: -38, right: 51, bottom: 4 },
  shapes: [
    { d: 'M-44-17L-50-37L-40-37L-24-18Z', fill: 'body' },
    { d: 'M-50-20C-46-23-30-22 20-22C38-22 49-16 50-12C49-7 36-5 20-5L-22-6C-36-8-48-14-50-20Z', fill: 'paper' },
    { d: 'M-49-18C-36-12-20-11 10-11L50-12C49-7 36-5 20-5L-22-6C-36-8-47-14-49-18Z', fill: 'body' },
    { d: row(9, -24, 5.6, (x) => circle(x, -16.5, 1.5)), fill: 'glass' },
    { d: 'M34-21C40-19 44-17 46-15L35-15C33-17 33-19 34-21Z', fill: 'glass' },
    { d: 'M8-10L-22 3L-30 3L-10-10Z', fill: 'shade' },
    { d: box(-12, -6, 18, 7.5, 3.5), fill: 'steel' },
    { d: 'M-38-16L-50-12L-44-12L-30-14Z', fill: 'shade' },
  ],
}
