import type { Box } from '../geometry/box'

/** All there is to say of a shape of pin: to add one is to add an entry. */
export interface PinDrawing {
  title: string
  /** The box around its place, as shares of its size: some stand on their foot, others are centred. */
  box: Box
  /** SVG path data in hundredths of the pin's size, around its place. */
  outline: string
  parts: readonly { d: string; paint: 'colour' | 'shade' | 'paper' | 'lamp' | 'line' }[]
  /** The round field in which a number or letters can be written: its middle's height and its radius. */
  face?: { y: number; r: number }
  /** Whether it is round about its place, and so can lie on the ground. */
  isCentred?: true
}

const disc = (y: number, r: number): string => `M${-r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`
/** The same the other way round, which makes a hole. */
const hole = (y: number, r: number): string => `M${-r} ${y}a${r} ${r} 0 1 1 ${2 * r} 0a${r} ${r} 0 1 1 ${-2 * r} 0Z`
const star = (points: number, outer: number, inner: number): string =>
  `M${Array.from({ length: 2 * points }, (_, i) => {
    const [r, angle] = [i % 2 === 0 ? outer : inner, (Math.PI * i) / points - Math.PI / 2]
    return `${(r * Math.cos(angle)).toFixed(1)} ${(r * Math.sin(angle)).toFixed(1)}`
  }).join('L')}Z`

const LANTERN_BODY = 'M0 0L-7-22L-24-31L-31-43L-27-76L-13-87L13-87L27-76L31-43L24-31L7-22Z'
const PENNANT = 'M3-98C20-105 36-88 64-95L50-78L64-59C40-53 22-69 3-60Z'
const POLE = `M-3-98a3 3 0 0 1 6 0v98h-6Z${disc(0, 6)}`
const KITE = 'M0 0L-31-60Q-34-66-30-72L-6-97Q0-102 6-97L30-72Q34-66 31-60Z'
const KITE_SHADE = 'M0 0L31-60Q34-66 30-72L6-97Q3-99.5 0-99.5Z'
const FLAG = 'M3-96C18-102 34-90 60-96L60-56C34-50 18-62 3-56Z'
const SHIELD = 'M-32-84C-20-84-8-88 0-92C8-88 20-84 32-84L32-50C32-26 14-10 0 0C-14-10-32-26-32-50Z'
const BOARD = 'M-32-92L34-92L48-76L34-60L-32-60Z'
const TILE = 'M-27-34h54a7 7 0 0 1 7 7v54a7 7 0 0 1-7 7h-54a7 7 0 0 1-7-7v-54a7 7 0 0 1 7-7Z'
const TOWER = 'M-20 2L-12-66L12-66L20 2Z'
const TENT = 'M-44 2L-4-64L4-64L44 2Z'

/** The pins that ship with the application, by the name that journeys store: pictures for both the painter and the interface. */
export const PINS = {
  lantern: {
    title: 'Lantern',
    box: { left: -0.34, right: 0.34, top: -1, bottom: 0 },
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
    title: 'Pennant',
    box: { left: -0.08, right: 0.66, top: -1, bottom: 0.06 },
    outline: `M-3-100h6v100h-6Z${PENNANT}`,
    parts: [
      { d: PENNANT, paint: 'colour' },
      { d: 'M3-98C10-101 17-100 24-98L24-64C17-65 10-64 3-60Z', paint: 'shade' },
      { d: POLE, paint: 'line' },
    ],
  },
  bead: {
    title: 'Bead',
    box: { left: -0.3, right: 0.3, top: -0.3, bottom: 0.3 },
    outline: disc(0, 27),
    parts: [
      { d: disc(0, 27), paint: 'colour' },
      { d: disc(0, 15), paint: 'paper' },
      { d: disc(0, 8), paint: 'line' },
    ],
    isCentred: true,
  },
  drop: {
    // Journeys know it by the name that it had first.
    title: 'Kite',
    box: { left: -0.33, right: 0.33, top: -1, bottom: 0 },
    outline: KITE,
    parts: [
      { d: KITE, paint: 'colour' },
      { d: KITE_SHADE, paint: 'shade' },
      { d: disc(-66, 19), paint: 'paper' },
    ],
    face: { y: -66, r: 19 },
  },
  stake: {
    title: 'Stake',
    box: { left: -0.2, right: 0.2, top: -1, bottom: 0.04 },
    outline: `M-3-70h6v70h-6Z${disc(-82, 16)}`,
    parts: [
      { d: 'M-2.5-70h5l-1.5 70h-2Z', paint: 'line' },
      { d: disc(-82, 16), paint: 'colour' },
      { d: 'M-9-88a9 9 0 0 1 9-7l0 4a6 6 0 0 0-6 5Z', paint: 'paper' },
    ],
  },
  disc: {
    title: 'Disc',
    box: { left: -0.36, right: 0.36, top: -0.36, bottom: 0.36 },
    outline: disc(0, 33),
    parts: [
      { d: disc(0, 33), paint: 'colour' },
      { d: disc(0, 24), paint: 'paper' },
    ],
    face: { y: 0, r: 24 },
    isCentred: true,
  },
  ring: {
    title: 'Ring',
    box: { left: -0.36, right: 0.36, top: -0.36, bottom: 0.36 },
    outline: disc(0, 33) + hole(0, 20),
    parts: [{ d: disc(0, 33) + hole(0, 20), paint: 'colour' }],
    isCentred: true,
  },
  star: {
    title: 'Star',
    box: { left: -0.42, right: 0.42, top: -0.42, bottom: 0.42 },
    outline: star(5, 38, 16),
    parts: [{ d: star(5, 38, 16), paint: 'colour' }],
    isCentred: true,
  },
  diamond: {
    title: 'Diamond',
    box: { left: -0.4, right: 0.4, top: -0.4, bottom: 0.4 },
    outline: 'M0-37L37 0L0 37L-37 0Z',
    parts: [
      { d: 'M0-37L37 0L0 37L-37 0Z', paint: 'colour' },
      { d: disc(0, 18), paint: 'paper' },
    ],
    face: { y: 0, r: 18 },
    isCentred: true,
  },
  tile: {
    title: 'Tile',
    box: { left: -0.36, right: 0.36, top: -0.36, bottom: 0.36 },
    outline: TILE,
    parts: [
      { d: TILE, paint: 'colour' },
      { d: 'M-24-29h48a5 5 0 0 1 5 5v48a5 5 0 0 1-5 5h-48a5 5 0 0 1-5-5v-48a5 5 0 0 1 5-5Z', paint: 'paper' },
    ],
    face: { y: 0, r: 27 },
    isCentred: true,
  },
  flag: {
    title: 'Flag',
    box: { left: -0.08, right: 0.62, top: -1, bottom: 0.06 },
    outline: `M-3-100h6v100h-6Z${FLAG}`,
    parts: [
      { d: FLAG, paint: 'colour' },
      { d: 'M22-93C28-91 34-90 42-92L42-52C34-50 28-51 22-53Z', paint: 'paper' },
      { d: POLE, paint: 'line' },
    ],
  },
  signpost: {
    title: 'Signpost',
    box: { left: -0.34, right: 0.5, top: -1, bottom: 0.04 },
    outline: `M-4-98h8v98h-8Z${BOARD}`,
    parts: [
      { d: 'M-3.5-97a3.5 3.5 0 0 1 7 0v99h-7Z', paint: 'line' },
      { d: BOARD, paint: 'colour' },
      { d: 'M-24-82h52l5 6l-5 6h-52Z', paint: 'paper' },
    ],
  },
  tower: {
    title: 'Tower',
    box: { left: -0.26, right: 0.26, top: -1, bottom: 0.04 },
    outline: `${TOWER}M-14-82h28v16h-28ZM-16-82L0-97L16-82Z`,
    parts: [
      { d: TOWER, paint: 'paper' },
      { d: 'M-14.6-44L-17-24L17-24L14.6-44ZM-19-8L-20 2L20 2L19-8Z', paint: 'colour' },
      { d: 'M-17-68h34v5h-34Z', paint: 'line' },
      { d: 'M-10-82h20v14h-20Z', paint: 'lamp' },
      { d: 'M-16-82L0-97L16-82Z', paint: 'colour' },
    ],
  },
  shield: {
    title: 'Shield',
    box: { left: -0.34, right: 0.34, top: -0.92, bottom: 0 },
    outline: SHIELD,
    parts: [
      { d: SHIELD, paint: 'colour' },
      { d: disc(-54, 21), paint: 'paper' },
    ],
    face: { y: -54, r: 21 },
  },
  tent: {
    title: 'Tent',
    box: { left: -0.46, right: 0.46, top: -0.72, bottom: 0.04 },
    outline: TENT,
    parts: [
      { d: TENT, paint: 'colour' },
      { d: 'M4-64L44 2L16 2L0-57Z', paint: 'shade' },
      { d: 'M-16 2L0-40L14 2Z', paint: 'line' },
    ],
  },
} as const satisfies Record<string, PinDrawing>

export type PinId = keyof typeof PINS
export const PIN_IDS = Object.keys(PINS) as [PinId, ...PinId[]]

export const pinDrawing = (id: PinId): PinDrawing => PINS[id]
