import { z } from 'zod'
import { FAMILY_IDS } from '../type/families'
import { colour, coordinate, id, LIMITS, lonLat, point, spanSchema, unit, fileHash } from './values'

/** What a journey document says of its sheets and of the ground under them; see docs/journey-format.md. */

/** What is done to a sheet's colours, in this order; see core/sheet/wash.ts. */
export const washSchema = z.strictObject({
  /** Softening: standard deviation in sheet pixels. */
  blur: z.number().min(0).max(400).default(0),
  /** In stops: +1 doubles the light. */
  exposure: z.number().min(-3).max(3).default(0),
  /** -1 is flat grey, 1 doubles the slope about the middle. */
  contrast: z.number().min(-1).max(1).default(0),
  /** -1 is grey, 1 doubles the distance from grey. */
  saturation: z.number().min(-1).max(1).default(0),
  /** The colours that dark and light parts take on. */
  twoTone: z.strictObject({ dark: colour, light: colour, strength: unit }).nullable().default(null),
  /** A tint, like looking through coloured glass. */
  tint: z.strictObject({ colour, strength: unit }).nullable().default(null),
  /** The map's own lines and coasts glow: `radius` is how far, in sheet pixels. */
  glowingLines: z
    .strictObject({ colour, strength: unit, radius: z.number().min(0.5).max(100) })
    .nullable()
    .default(null),
  /** Grain of paper: `size` is that of a grain in sheet pixels. */
  grain: z
    .strictObject({ strength: unit, size: z.number().min(0.5).max(50) })
    .nullable()
    .default(null),
  /** The frame's edges darken towards a colour: `size` is how far the shade reaches inwards, `feather` how softly it begins. */
  edgeShade: z.strictObject({ colour, strength: unit, size: unit, feather: unit }).nullable().default(null),
})

/** Where a sheet lies on the ground: its upper left corner, ground units to the sheet pixel, and its turn clockwise in degrees. */
export const placeSchema = z.strictObject({
  x: coordinate,
  y: coordinate,
  scale: z.number().min(1e-5).max(1e5),
  rotation: z.number().min(-180).max(180),
})

const side = z.number().min(0).max(200_000)

/** The part of a sheet that is used, in its pixels. */
const cropSchema = z.strictObject({ left: side, top: side, right: side, bottom: side })

/** A flat plane that the Earth is projected onto; core/geo/plane.ts has the formulas. */
export const planeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('degrees') }),
  /** EPSG:3857 in metres. */
  z.strictObject({ kind: z.literal('mercator') }),
  z.strictObject({ kind: z.literal('utm'), zone: z.int().min(1).max(60), south: z.boolean() }),
  /** Any other coordinate system, x east and y north: its name, and its definition as a PROJ string or as well-known text. */
  z.strictObject({ kind: z.literal('crs'), name: z.string().min(1).max(120), definition: z.string().min(1).max(4000) }),
  /** On the unit sphere, about a middle; `parallels` are the standard parallels of a conic projection. */
  z.strictObject({
    kind: z.literal('drawn'),
    projection: z.enum(['mercator', 'equirectangular', 'conic', 'orthographic']),
    ...lonLat,
    parallels: z.tuple([z.number().min(-89).max(89), z.number().min(-89).max(89)]).default([30, 60]),
  }),
])

/** A spot of the sheet whose place on the Earth is known; `at` in sheet pixels. */
const controlPointSchema = z.strictObject({ id, name: z.string().max(120), at: point, ...lonLat })

const finite = z.number().min(-1e12).max(1e12)

/** How a sheet lies on the Earth. */
export const georeferenceSchema = z.discriminatedUnion('kind', [
  /** Fitted to control points in a plane; the kind of fit follows from the points if it is not set. */
  z.strictObject({
    kind: z.literal('points'),
    /** null chooses the one that fits the points best. */
    plane: z.enum(['mercator', 'degrees']).nullable().default(null),
    fit: z.enum(['similarity', 'affine', 'projective']).nullable().default(null),
    points: z.array(controlPointSchema).max(LIMITS.controlPoints),
  }),
  /** X = a x + b y + c, Y = d x + e y + f from sheet pixels, 0, 0 at the outer upper left corner, to the plane. */
  z.strictObject({
    kind: z.literal('affine'),
    source: z.enum(['world-file', 'geotiff', 'mbtiles', 'tiles', 'drawn']),
    plane: planeSchema,
    matrix: z.tuple([finite, finite, finite, finite, finite, finite]),
  }),
])

const words = z.string().max(300).default('')

/** Where an image or data comes from. */
export const creditSchema = z.strictObject({ title: words, author: words, licence: words, source: words })

export const MAP_STYLES = ['atlas', 'relief', 'ink', 'nightfall', 'sea-chart', 'countries', 'cut-paper', 'blank', 'day', 'night'] as const

/** A part of the Earth in degrees; west is greater than east where it crosses the antimeridian. */
export const regionSchema = z
  .strictObject({ west: lonLat.lon, south: lonLat.lat, east: lonLat.lon, north: lonLat.lat })
  .refine(({ south, north }) => south < north, 'has its north below its south')
  .refine(({ west, east }) => west !== east, 'has no width')

/** The settings of a generated map, so that it can be redrawn. */
export const drawnMapSchema = z.strictObject({
  region: regionSchema,
  projection: z.enum(['mercator', 'equirectangular', 'conic', 'orthographic']),
  style: z.enum(MAP_STYLES),
  borders: z.boolean(),
  graticule: z.boolean(),
  /** Rivers, where the map is so far away that they are known well enough. */
  rivers: z.boolean().default(true),
  /** Towns as dots, or as lights, the more the nearer. */
  towns: z.boolean().default(false),
  /** A bar with the scale and an arrow to the north in a corner, unless the map is of more than a continent. */
  scaleBar: z.boolean().default(false),
  /** Width over height. */
  aspect: z.number().min(0.2).max(5),
})

/** How a tile service parts a plane: levels of square tiles, the coarsest first, each level twice as fine as the one before. */
export const tileGridSchema = z.strictObject({
  plane: z.enum(['mercator', 'degrees']),
  /** The upper left corner of all levels, in metres or degrees. */
  left: finite,
  top: finite,
  /** The side of a tile in pixels. */
  side: z.int().min(64).max(1024),
  /** Metres or degrees to the pixel at the coarsest level. */
  resolution: z.number().min(1e-9).max(1e7),
  levels: z
    .array(
      z.strictObject({
        /** What the service calls it: a number, as a rule. */
        id: z.string().min(1).max(80),
        columns: z
          .int()
          .min(1)
          .max(2 ** 30),
        rows: z
          .int()
          .min(1)
          .max(2 ** 30),
      }),
    )
    .min(1)
    .max(30),
})

/** A service of map tiles. */
export const tileServiceSchema = z.strictObject({
  name: z.string().max(255),
  /** How a tile is asked for: by an address made of a template, or as a part of a PMTiles archive. */
  kind: z.enum(['template', 'pmtiles']),
  /** With `{key}` where the service wants a key: the key itself is never here. */
  address: z.string().min(8).max(2000),
  grid: tileGridSchema,
  /** What the service says that it covers. */
  covers: regionSchema.nullable(),
})

/** Tiles of a sheet of 512 pixels: for each level of its pyramid, from 0, runs along a row as [row, first column, last column]. */
export const tileRunsSchema = z.array(z.array(z.tuple([z.int().min(0), z.int().min(0), z.int().min(0)])).max(5000)).max(30)

/** Where a sheet's tiles were taken from, so that more can be taken. */
export const takenSchema = z.strictObject({
  service: tileServiceSchema,
  region: regionSchema,
  /** The finest level that was taken: an index into the grid's levels. */
  finest: z.int().min(0).max(29),
  /** Fine only where the camera looks closely, or all over the region. */
  sharp: z.enum(['camera', 'region']),
  /** The tiles that were taken, for where the sheet is how sharp; null for all of it. */
  tiles: tileRunsSchema.nullable(),
  /** The number of tiles that did not come. */
  missing: z.int().min(0).max(1e6),
})

export const sheetSchema = z.strictObject({
  id,
  name: z.string().min(1).max(255),
  /** SHA-256 of the image file, in hexadecimal. */
  image: fileHash,
  /** Size of the image in its own pixels; a vector image has a nominal size. */
  width: z.int().positive().max(200_000),
  height: z.int().positive().max(200_000),
  /** A vector image is rendered again for each zoom, so that no pixels show. */
  vector: z.boolean().default(false),
  /** A tracing sheet is shown over the others while working, and never in the film. */
  tracing: z.boolean().default(false),
  place: placeSchema.prefault({ x: 0, y: 0, scale: 1, rotation: 0 }),
  crop: cropSchema.nullable().default(null),
  opacity: unit.default(1),
  /** When it is shown; null is always. */
  shown: spanSchema.nullable().default(null),
  wash: washSchema.nullable().default(null),
  georeference: georeferenceSchema.nullable().default(null),
  credit: creditSchema.prefault({}),
  drawn: drawnMapSchema.nullable().default(null),
  taken: takenSchema.nullable().default(null),
})

/** A highlighted area of the ground: filled and outlined. Its outlines are rings x, y, x, y, … in gu; overlapping rings are filled by the even-odd rule. */
export const areaSchema = z
  .strictObject({
    id,
    name: z.string().max(120),
    rings: z
      .array(
        z
          .array(coordinate)
          .min(6)
          .max(2 * LIMITS.outline),
      )
      .max(2000),
    fill: z.strictObject({ colour, opacity: unit }).prefault({ colour: '#d8a13a', opacity: 0.45 }),
    /** Outline: width in rpx, 0 for none. */
    outline: z.strictObject({ colour, width: z.number().min(0).max(40) }).prefault({ colour: '#fbf6ea', width: 4 }),
    shown: spanSchema.nullable().default(null),
  })
  .refine(({ rings }) => rings.every((ring) => ring.length % 2 === 0), 'has a ring with an x without its y')
  .refine(
    ({ rings }) => rings.reduce((sum, ring) => sum + ring.length, 0) <= 2 * LIMITS.outline,
    `has more than ${LIMITS.outline} points in its outlines`,
  )

/** Names of countries and seas on the ground, where its place on the Earth is known. */
export const mapNamesSchema = z.strictObject({
  countries: z.boolean().default(true),
  seas: z.boolean().default(true),
  /** Letter size in rpx; names grow where they have room. */
  size: z.number().min(8).max(120).default(26),
  family: z.enum(FAMILY_IDS).default('alegreya-sans'),
  /** null chooses colours that suit the map. */
  colour: colour.nullable().default(null),
})

/** The backdrop beyond the first sheet, and what is written on the map. */
export const groundSchema = z.strictObject({
  colour: colour.default('#dcd5c3'),
  /** A second colour makes a gradient, in a direction of so many degrees: 0 to the right, 90 downwards. */
  second: colour.nullable().default(null),
  direction: z.number().min(0).max(360).default(90),
  /** The ground's colour; the sheet mirrored; the camera kept in; or the sheet as a panel that casts a shadow on the ground. */
  edge: z.enum(['plain', 'mirrored', 'held', 'panel']).default('plain'),
  panel: z
    .strictObject({
      /** The shadow's strength, and how far it reaches in rpx. */
      shadow: unit.default(0.5),
      reach: z.number().min(0).max(200).default(40),
      /** Width of the panel's border in rpx, 0 for none, and its colour. */
      border: z.number().min(0).max(80).default(10),
      borderColour: colour.default('#fbf6ea'),
    })
    .prefault({}),
  names: mapNamesSchema.nullable().default(null),
})

export type Wash = z.output<typeof washSchema>
export type Place = z.output<typeof placeSchema>
export type Crop = z.output<typeof cropSchema>
export type Plane = z.output<typeof planeSchema>
export type ControlPoint = z.output<typeof controlPointSchema>
export type Georeference = z.output<typeof georeferenceSchema>
export type Credit = z.output<typeof creditSchema>
export type DrawnMap = z.output<typeof drawnMapSchema>
export type Region = z.output<typeof regionSchema>
export type TileGrid = z.output<typeof tileGridSchema>
export type TileService = z.output<typeof tileServiceSchema>
export type TileRuns = z.output<typeof tileRunsSchema>
export type Taken = z.output<typeof takenSchema>
export type MapStyle = (typeof MAP_STYLES)[number]
export type Sheet = z.output<typeof sheetSchema>
export type Area = z.output<typeof areaSchema>
export type MapNames = z.output<typeof mapNamesSchema>
export type Ground = z.output<typeof groundSchema>
