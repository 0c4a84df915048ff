import type { Artwork } from './artwork'
import { box, circle, row, tyre, wheel } from './shapes'

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

export const motorbike: Artwork = {
  name: 'Motorbike',
  view: 'side',
  facing: 0,
  inkBehind: 0.3,
  bounds: { left: -49, top: -92, right: 50, bottom: 1 },
  shapes: [
    tyre(-32, -16, 13, 7),
    tyre(33, -16, 13, 7),
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

export const bicycle: Artwork = {
  name: 'Bicycle',
  view: 'side',
  facing: 0,
  inkBehind: 0.32,
  bounds: { left: -50, top: -115, right: 50, bottom: 1 },
  shapes: [
    tyre(-29, -20, 18.5, 4),
    tyre(29, -20, 18.5, 4),
    { d: 'M-29-20L-3-20L17-46L-15-46L-3-20M-29-20L-17-52M29-20L15-56L23-60', stroke: 'body', width: 4 },
    { d: 'M-24-54L-10-54', stroke: 'line', width: 5 },
    { d: 'M-2-20L6-14', stroke: 'line', width: 3.4 },
    { d: 'M-16-60C-14-78-4-92 6-92C12-92 14-88 12-82L2-60L8-40L8-16L2-16L0-38L-10-54Z', fill: 'shade' },
    { d: 'M6-84L14-68L24-62', stroke: 'lamp', width: 5 },
    { d: circle(14, -102, 9), fill: 'lamp' },
    { d: 'M4-103C4-112 10-115 16-114C22-113 25-108 25-103Z', fill: 'body' },
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

export const hatchback: Artwork = {
  name: 'Small car',
  view: 'side',
  facing: 0,
  inkBehind: 0.15,
  bounds: { left: -51, top: -52, right: 51, bottom: 1 },
  shapes: [
    { d: 'M-50-14L-49-28C-48-34-44-46-36-48L0-50C12-50 18-45 25-31L42-27C48-25 50-21 50-15C50-11 48-9 45-9L-45-9C-48-9-50-11-50-14Z', fill: 'body' },
    { d: 'M-50-13L50-13C50-10 48-9 45-9L-45-9C-48-9-50-10-50-13Z', fill: 'shade' },
    { d: 'M-40-30C-39-38-36-43-32-44L-12-45L-12-30ZM-8-45L0-45C9-45 14-40 19-30L-8-30Z', fill: 'glass' },
    { d: box(-7, -25, 8, 2.4, 1.2), fill: 'shade' },
    { d: 'M43-24C47-23 49-21 49-18L43-18Z', fill: 'lamp' },
    { d: box(-50, -25, 4, 7, 1), fill: 'tint' },
    ...wheel(-29, 11),
    ...wheel(29, 11),
  ],
}

export const lorry: Artwork = {
  name: 'Lorry',
  view: 'side',
  facing: 0,
  inkBehind: 0.15,
  bounds: { left: -51, top: -54, right: 51, bottom: 1 },
  shapes: [
    { d: box(-48, -12, 92, 5), fill: 'line' },
    { d: box(-50, -53, 66, 42, 2), fill: 'paper' },
    { d: box(-50, -53, 66, 6, 2) + box(-50, -22, 66, 5), fill: 'body' },
    { d: row(5, -40, 12, (x) => box(x, -45, 1.2, 21)), fill: 'steel' },
    { d: 'M19-9L19-42C19-45 21-46 23-46L34-46C38-46 40-44 42-40L48-27C50-25 50-22 50-18L50-11C50-9 49-8 47-8L20-8Z', fill: 'body' },
    { d: 'M27-41L34-41C36-41 38-40 39-37L44-27L27-27Z', fill: 'glass' },
    { d: 'M19-14L50-14L50-11C50-9 49-8 47-8L19-8Z', fill: 'shade' },
    { d: box(46, -20, 4, 4.5, 1), fill: 'lamp' },
    ...wheel(-36, 8.5),
    ...wheel(-17, 8.5),
    ...wheel(34, 8.5),
  ],
}

export const jeep: Artwork = {
  name: 'Off-roader',
  view: 'side',
  facing: 0,
  inkBehind: 0.15,
  bounds: { left: -53, top: -64, right: 51, bottom: 1 },
  shapes: [
    { d: box(-44, -62, 22, 5, 2) + box(-20, -63, 14, 6, 2), fill: 'wood' },
    { d: box(-46, -57, 58, 2.6, 1.3), fill: 'line' },
    { d: 'M-47-15L-47-50C-47-53-45-54-42-54L8-54C12-54 14-52 16-47L20-34L43-32C47-31 49-29 49-25L49-14Z', fill: 'body' },
    { d: 'M-47-17L49-17L49-12L-47-12Z', fill: 'shade' },
    { d: box(-42, -49, 20, 15, 2) + box(-19, -49, 14, 15, 2) + 'M-2-49L7-49C9-49 10-48 11-46L15-34L-2-34Z', fill: 'glass' },
    { d: circle(-49, -30, 7.5), fill: 'line' },
    { d: circle(-49, -30, 3), fill: 'steel' },
    { d: circle(45, -26, 3.4), fill: 'lamp' },
    { d: box(44, -19, 7, 5, 1.5), fill: 'steel' },
    ...wheel(-28, 13),
    ...wheel(31, 13),
  ],
}

export const threewheeler: Artwork = {
  name: 'Three-wheeler',
  view: 'side',
  facing: 0,
  inkBehind: 0.18,
  bounds: { left: -51, top: -84, right: 50, bottom: 1 },
  shapes: [
    { d: 'M-46-30L-42-74M-6-30L-6-76M20-34L8-76', stroke: 'line', width: 3.4 },
    { d: 'M-50-70C-48-80-40-83-30-83L2-83C10-83 16-78 18-68Z', fill: 'lamp' },
    { d: 'M-48-12L-50-34C-50-38-48-40-44-40L-12-40L-8-22L8-22L22-44C26-47 30-46 32-42L44-22C47-18 46-12 42-12Z', fill: 'body' },
    { d: 'M-49-20L-8-20L8-20L45-20C46-16 45-12 42-12L-48-12Z', fill: 'shade' },
    { d: 'M-40-52C-40-56-36-57-32-57L-26-57L-24-40L-38-40Z', fill: 'wood' },
    { d: 'M21-43L11-73L14-73C18-66 23-54 26-45Z', fill: 'glass' },
    { d: circle(36, -32, 4), fill: 'lamp' },
    ...wheel(-30, 11),
    ...wheel(36, 11),
  ],
}

export const scooter: Artwork = {
  name: 'Scooter',
  view: 'side',
  facing: 0,
  inkBehind: 0.28,
  bounds: { left: -50, top: -112, right: 50, bottom: 1 },
  shapes: [
    ...wheel(-30, 14),
    ...wheel(34, 14),
    { d: 'M34-16L22-62', stroke: 'body', width: 6 },
    { d: 'M-48-24C-48-38-38-44-26-44L-8-44L-2-18L18-18L26-40L32-38L26-12C25-9 22-8 19-8L-14-8C-20-20-40-22-44-12C-47-15-48-20-48-24Z', fill: 'body' },
    { d: 'M20-60C26-60 30-54 31-46L36-26L28-24L22-44Z', fill: 'tint' },
    { d: 'M-44-48L-8-48C-5-48-4-46-5-44L-42-43C-46-44-46-48-44-48Z', fill: 'line' },
    { d: 'M14-66L26-64', stroke: 'line', width: 4.5 },
    { d: 'M-26-50C-24-70-18-84-8-84C-2-84 0-80-1-74L-6-52L10-44L8-20L2-20L0-36L-20-40Z', fill: 'shade' },
    { d: 'M-6-78L6-66L18-63', stroke: 'lamp', width: 5 },
    { d: circle(1, -96, 9.5), fill: 'lamp' },
    { d: 'M-10-96C-10-106-4-111 3-110C10-109 13-103 12-97Z', fill: 'paper' },
    { d: circle(31, -52, 3.6), fill: 'lamp' },
  ],
}

export const coachtop: Artwork = {
  name: 'Coach from above',
  view: 'above',
  facing: 0,
  inkBehind: 0.2,
  bounds: { left: -51, top: -19, right: 51, bottom: 19 },
  shapes: [
    { d: row(2, -36, 60, (x) => box(x, -18.5, 12, 37, 2)), fill: 'line' },
    { d: 'M-50-13C-50-16-48-17-45-17L40-17C47-17 50-11 50 0C50 11 47 17 40 17L-45 17C-48 17-50 16-50 13Z', fill: 'body' },
    { d: box(-46, -13, 80, 26, 3), fill: 'tint' },
    { d: 'M38-15C44-14 48-8 48 0C48 8 44 14 38 15C42 6 42-6 38-15Z', fill: 'glass' },
    { d: box(-38, -7, 16, 14, 3) + box(6, -7, 16, 14, 3), fill: 'steel' },
    { d: box(-12, -9, 11, 18, 2), fill: 'paper' },
    { d: 'M47-12L50-7L50-4L46-8ZM47 12L50 7L50 4L46 8Z', fill: 'lamp' },
  ],
}
