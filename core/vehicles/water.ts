import type { Artwork } from './artwork'
import { box, circle, row } from './shapes'

export const ferry: Artwork = {
  name: 'Ferry',
  medium: 'water',
  speed: 35,
  voice: 'engine',
  view: 'side',
  facing: 0,
  inkBehind: 0.25,
  mostLean: 0,
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
  medium: 'water',
  speed: 10,
  voice: 'none',
  view: 'side',
  facing: 0,
  inkBehind: 0.2,
  mostLean: 0,
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
  medium: 'water',
  speed: 5,
  voice: 'oars',
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

export const liner: Artwork = {
  name: 'Cruise ship',
  medium: 'water',
  speed: 40,
  voice: 'engine',
  view: 'side',
  facing: 0,
  inkBehind: 0.25,
  mostLean: 0,
  bounds: { left: -51, top: -51, right: 52, bottom: 2 },
  shapes: [
    { d: 'M-30-40L-26-50L-12-50L-12-40Z', fill: 'body' },
    { d: 'M-28-45L-12-45L-12-42L-29-42Z', fill: 'shade' },
    { d: 'M-44-18L-43-26L-36-26L-35-33L-28-33L-27-40L14-40L19-33L25-33L29-26L36-26L40-18Z', fill: 'paper' },
    { d: row(10, -40, 7.4, (x) => box(x, -24, 4.4, 3, 1)) + row(7, -31, 7.4, (x) => box(x, -31, 4.4, 3, 1)) + row(5, -23, 7.4, (x) => box(x, -38, 4.4, 3, 1)), fill: 'glass' },
    { d: box(-42, -20, 78, 2.6, 1.3), fill: 'lamp' },
    { d: 'M-50-18L51-18C47-9 43-3 38 1L-43 1C-47-4-49-10-50-18Z', fill: 'body' },
    { d: 'M-47-7L43-7C42-4 40-1 38 1L-43 1C-45-1-46-4-47-7Z', fill: 'shade' },
    { d: row(9, -38, 8.6, (x) => circle(x, -12, 1.5)), fill: 'lamp' },
    { d: 'M16-40L16-50', stroke: 'line', width: 1.6 },
  ],
}

export const motorboat: Artwork = {
  name: 'Motorboat',
  medium: 'water',
  speed: 45,
  voice: 'engine',
  view: 'above',
  facing: 0,
  inkBehind: 0.25,
  bounds: { left: -53, top: -19, right: 51, bottom: 19 },
  shapes: [
    { d: box(-52, -6, 10, 12, 2), fill: 'line' },
    { d: 'M-46-15C-40-18-6-19 16-15C32-12 44-6 50 0C44 6 32 12 16 15C-6 19-40 18-46 15C-47 10-47-10-46-15Z', fill: 'paper' },
    { d: 'M-46-15C-40-18-6-19 16-15C32-12 44-6 50 0L44 0C36-5 28-8 14-11C-6-14-36-13-42-11L-42 11C-36 13-6 14 14 11C28 8 36 5 44 0L50 0C44 6 32 12 16 15C-6 19-40 18-46 15C-47 10-47-10-46-15Z', fill: 'body' },
    { d: 'M-38-10L4-11C6-4 6 4 4 11L-38 10Z', fill: 'wood' },
    { d: 'M4-12L16-9C20-3 20 3 16 9L4 12C7 4 7-4 4-12Z', fill: 'glass' },
    { d: box(-32, -8, 10, 16, 2) + box(-12, -8, 9, 7, 2) + box(-12, 1, 9, 7, 2), fill: 'tint' },
  ],
}

export const kayak: Artwork = {
  name: 'Kayak',
  medium: 'water',
  speed: 5,
  voice: 'oars',
  view: 'above',
  facing: 0,
  inkBehind: 0.3,
  bounds: { left: -51, top: -39, right: 51, bottom: 39 },
  shapes: [
    { d: 'M-50 0C-32-10-14-12 0-12C14-12 32-10 50 0C32 10 14 12 0 12C-14 12-32 10-50 0Z', fill: 'body' },
    { d: 'M-44 0L-18-1.4L-18 1.4ZM44 0L16-1.4L16 1.4Z', fill: 'paper' },
    { d: 'M-15 0C-15-6-8-8-1-8C6-8 11-6 11 0C11 6 6 8-1 8C-8 8-15 6-15 0Z', fill: 'line' },
    { d: 'M-9-6L6-4L6 4L-9 6C-12 4-12-4-9-6Z', fill: 'shade' },
    { d: circle(-3, 0, 6), fill: 'lamp' },
    { d: 'M10-36L2 36', stroke: 'wood', width: 2.6 },
    { d: 'M8-38C13-38 15-33 14-26L10-25ZM4 38C-1 38-3 33-2 26L2 25Z', fill: 'tint' },
  ],
}

export const yacht: Artwork = {
  name: 'Yacht from above',
  medium: 'water',
  speed: 12,
  voice: 'none',
  view: 'above',
  facing: 0,
  inkBehind: 0.28,
  bounds: { left: -49, top: -30, right: 51, bottom: 18 },
  shapes: [
    { d: 'M-48-11C-30-17 8-17 50 0C8 17-30 17-48 11C-49 5-49-5-48-11Z', fill: 'paper' },
    { d: 'M-42-8C-28-12 6-12 38 0C6 12-28 12-42 8C-43 4-43-4-42-8Z', fill: 'wood' },
    { d: 'M-8-7L14-5C18-3 18 3 14 5L-8 7Z', fill: 'paper' },
    { d: box(-34, -6, 18, 12, 3), fill: 'line' },
    { d: 'M10 0C-4-12-24-24-40-28C-30-18-14-6 10 0Z', fill: 'body' },
    { d: 'M47 0C38-9 26-14 14-15C20-8 30-2 47 0Z', fill: 'tint' },
    { d: circle(11, 0, 2.6), fill: 'line' },
  ],
}
