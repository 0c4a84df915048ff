import { radians } from '#core/geometry/angle'
import type { Point } from '#core/geometry/point'
import type { CourseShape } from '#core/journey/schema'

/** The Lantern Isles, an archipelago that does not exist. All places are in pixels of its sheet. */
export const SHEET = { width: 6400, height: 3600 } as const

const at = (x: number, y: number): Point => ({ x, y })

export const TOWNS = {
  harrowmere: { at: at(900, 1120), size: 1 },
  quillhaven: { at: at(2230, 2500), size: 0.8 },
  oarsend: { at: at(2752, 1600), size: 0.5 },
  lampwick: { at: at(3312, 1958), size: 0.45 },
  emberlight: { at: at(5572, 1000), size: 0.9 },
  saltern: { at: at(4860, 2620), size: 0.75 },
  millbeck: { at: at(1480, 1830), size: 0.4 },
  cinderford: { at: at(4350, 820), size: 0.4 },
  thatchley: { at: at(5440, 2460), size: 0.35 },
} as const

/** An island is where discs overlap, roughened by noise: [x, y, radius]. */
export const ISLANDS: readonly (readonly [number, number, number])[] = [
  // Great Wick
  [900, 1150, 620],
  [1400, 1500, 760],
  [1750, 1950, 720],
  [2150, 2350, 480],
  [2300, 1750, 560],
  [1150, 2100, 480],
  // Lampwick
  [3580, 1900, 300],
  [3700, 2060, 250],
  // Emberholm
  [4420, 830, 430],
  [4850, 760, 560],
  [5200, 980, 450],
  // Saltern
  [4700, 2600, 450],
  [5150, 2700, 530],
  [5500, 2500, 400],
  // Islets
  [3150, 3010, 210],
  [3390, 3120, 150],
  [3300, 660, 190],
  [3050, 480, 130],
  [5900, 1750, 200],
  [6050, 1900, 120],
  [380, 2950, 230],
  [600, 3100, 150],
  [1850, 420, 150],
  [4150, 3280, 130],
  [5950, 420, 140],
  [3960, 1380, 90],
]

/** Mountains: [x, y, radius, height as a share of the highest]. */
export const PEAKS: readonly (readonly [number, number, number, number])[] = [
  [1250, 1290, 420, 0.85],
  [1620, 1420, 380, 1],
  [1930, 1760, 300, 0.55],
  [1290, 2130, 260, 0.4],
  [4800, 640, 320, 0.9],
  [5010, 720, 220, 0.55],
  [5190, 2760, 280, 0.5],
  [3600, 1840, 130, 0.3],
]

type Drawn = Extract<CourseShape, { kind: 'drawn' }>
type Node = Drawn['nodes'][number]

/** A smooth node: its handles lie opposite each other, `reach` pixels long in the direction `heading` (degrees, clockwise from the right). */
function smoothNode(x: number, y: number, heading: number, reach: number): Node {
  const angle = radians(heading)
  const handle = at(Math.cos(angle) * reach, Math.sin(angle) * reach)
  return { at: at(x, y), kind: 'smooth', before: at(-handle.x, -handle.y), after: handle }
}

const polar = (heading: number, reach: number): Point => smoothNode(0, 0, heading, reach).after

/** The railway, round the mountains of Great Wick from Harrowmere to Quillhaven. */
export const RAILWAY: Drawn = {
  kind: 'drawn',
  leave: polar(115, 150),
  nodes: [
    smoothNode(940, 1480, 80, 150),
    smoothNode(1130, 1770, 35, 140),
    smoothNode(1480, 1890, 25, 150),
    smoothNode(1740, 2110, 60, 140),
    smoothNode(1930, 2370, 30, 130),
  ],
  arrive: polar(190, 120),
}

/** The coast road from Quillhaven to Oar's End, for cycling. */
export const COAST_ROAD: Drawn = {
  kind: 'drawn',
  leave: polar(-60, 90),
  nodes: [
    smoothNode(2330, 2290, -90, 80),
    smoothNode(2250, 2090, -105, 90),
    smoothNode(2330, 1900, -50, 80),
    smoothNode(2520, 1800, -40, 80),
    smoothNode(2560, 1650, -70, 60),
  ],
  arrive: polar(150, 70),
}

/** Rowed from Oar's End across the sound to Lampwick. */
export const SOUND_CROSSING: Drawn = {
  kind: 'drawn',
  leave: polar(20, 150),
  nodes: [smoothNode(2960, 1735, 62, 110), smoothNode(3110, 1920, 25, 90)],
  arrive: polar(180, 80),
}

/** Other roads: chains of points that are joined smoothly, from town to town. */
export const ROADS: readonly (readonly Point[])[] = [
  [TOWNS.harrowmere.at, at(760, 1400), at(820, 1760), at(1060, 1960), at(1300, 1880), TOWNS.millbeck.at],
  [TOWNS.millbeck.at, at(1640, 2000), at(1880, 2140), at(2070, 2330), TOWNS.quillhaven.at],
  [TOWNS.harrowmere.at, at(1080, 960), at(1380, 1020), at(1760, 1160), at(2080, 1390), at(2370, 1440), TOWNS.oarsend.at],
  [at(2080, 1390), at(2150, 1610), at(2250, 1850), at(2330, 1900)],
  [TOWNS.cinderford.at, at(4480, 960), at(4720, 1010), at(4930, 980), at(5280, 960), TOWNS.emberlight.at],
  [at(5280, 960), at(5330, 1090), at(5290, 1230)],
  [TOWNS.saltern.at, at(5000, 2500), at(5240, 2430), TOWNS.thatchley.at],
  [TOWNS.saltern.at, at(4960, 2860), at(5230, 2960), at(5470, 2800), TOWNS.thatchley.at],
  [TOWNS.lampwick.at, at(3430, 1990), at(3560, 1960), at(3700, 2010), at(3760, 2120)],
]

/** Ferries: chains of points over the water, from harbour to harbour. */
export const FERRIES: readonly (readonly Point[])[] = [
  [TOWNS.oarsend.at, at(2960, 1735), at(3110, 1920), TOWNS.lampwick.at],
  [at(3760, 2120), at(3960, 2260), at(4180, 2420), at(4520, 2560), TOWNS.saltern.at],
  [at(3760, 2120), at(4020, 1760), at(4080, 1330), at(4250, 1060), TOWNS.cinderford.at],
  [at(5290, 1230), at(5380, 1600), at(5560, 1980), TOWNS.thatchley.at],
]

/** Places of five towns on the Earth, at 25 m to the pixel, rounded as if read off a chart. */
export const CONTROL_POINTS = [
  { id: 'harrowmere', name: 'Harrowmere', at: TOWNS.harrowmere.at, lon: 84.259, lat: -38.452 },
  { id: 'quillhaven', name: 'Quillhaven', at: TOWNS.quillhaven.at, lon: 84.641, lat: -38.762 },
  { id: 'emberlight', name: 'Emberlight', at: TOWNS.emberlight.at, lon: 85.601, lat: -38.425 },
  { id: 'saltern', name: 'Saltern', at: TOWNS.saltern.at, lon: 85.397, lat: -38.789 },
  { id: 'cinderford', name: 'Cinderford', at: TOWNS.cinderford.at, lon: 85.25, lat: -38.385 },
]
