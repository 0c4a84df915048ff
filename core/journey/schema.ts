import { z } from 'zod'
import { FRAME_RATES } from '../pace/rate'
import type { FamilyName } from '../type/families'
import { isOwnFamily, ownFamily } from '../type/families'
import { VEHICLE_IDS } from '../vehicles/catalogue'
import { MOST_ALTITUDE, MOST_SET_LEAN } from '../vehicles/vehicle'
import { captionSchema, measuresSchema } from './caption-schema'
import { depthSchema } from './depth-schema'
import { fontSchema } from './font-schema'
import { inkSchema } from './ink-schema'
import { areaSchema, groundSchema, sheetSchema } from './sheet-schema'
import { landmarkSchema } from './landmark-schema'
import { audioSchema, easingSchema, noteSchema, paceMarkSchema, shareSchema, soundsSchema } from './pace-schema'
import { anchorSchema, photoSchema } from './picture-schema'
import { reframeSchema } from './reframe-schema'
import type { Shot } from './shot-schema'
import { planSchema, shotSchema, subjectsOf } from './shot-schema'
import { stopSchema } from './stop-schema'
import type { Moment, Span } from './values'
import { countIn, HEIGHTS_PATTERN, isRising, POINTS_PATTERN, TIMES_PATTERN } from './track-line'
import { colour, evenSide, id, LIMITS, point, seconds, unit, viewSchema } from './values'

export * from './caption-schema'
export * from './depth-schema'
export * from './font-schema'
export * from './ink-schema'
export * from './label-schema'
export * from './landmark-schema'
export * from './pace-schema'
export * from './picture-schema'
export * from './pin-schema'
export * from './postcard-schema'
export * from './reframe-schema'
export * from './shot-schema'
export * from './sheet-schema'
export * from './stop-schema'
export * from './text-schema'
export { LIMITS } from './values'
export type { Moment, Span } from './values'

/**
 * The journey document, version 11: what is stored, exchanged and undone.
 * Lengths are in ground units (gu) or reference pixels (rpx), times in seconds; see docs/journey-format.md.
 */
export const JOURNEY_FORMAT = 'zephyrine-journey'
export const JOURNEY_VERSION = 11

const title = z.string().trim().min(1).max(120)

export const frameSchema = z.strictObject({
  width: evenSide,
  height: evenSide,
  rate: z.enum(FRAME_RATES),
})

const NODE_KINDS = ['corner', 'smooth', 'symmetric'] as const

const nodeSchema = z.strictObject({
  at: point,
  /** How its handles are linked: not at all, in one line, or in one line with equal lengths. */
  kind: z.enum(NODE_KINDS).default('smooth'),
  /** Handles, as offsets from `at`, towards the node before and the node after. */
  before: point,
  after: point,
  /** The line is broken: it ends here and goes on at the next node, where the traveller is at once. */
  break: z.boolean().optional(),
})

export const NETWORK_MODES = ['road', 'rail', 'water'] as const

export const courseSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('straight') }),
  /** `bow` is the signed sagitta over the chord; positive bows to the left of the direction of travel. */
  z.strictObject({ kind: z.literal('bowed'), bow: z.number().min(-1).max(1).default(0.18) }),
  /** From stop to stop through nodes; `leave` and `arrive` are the handles at the two stops, as offsets. */
  z.strictObject({
    kind: z.literal('drawn'),
    leave: point,
    nodes: z
      .array(nodeSchema)
      .max(LIMITS.nodes)
      .refine((nodes) => !nodes.at(-1)?.break, 'has a break after the last node: the line must end at the stop'),
    arrive: point,
  }),
  /** The shortest way over the Earth, where the ground is georeferenced; else straight. */
  z.strictObject({ kind: z.literal('great-circle') }),
  /** A recorded track: its points, whose ends are replaced by the stops, and the seconds at which each was reached, if known. */
  z
    .strictObject({
      kind: z.literal('track'),
      points: z
        .string()
        .max(24 * LIMITS.trackPoints)
        .regex(POINTS_PATTERN, 'must be points like "12.5,8 13,9.25"'),
      times: z
        .string()
        .max(14 * LIMITS.trackPoints)
        .regex(TIMES_PATTERN, 'must be seconds like "0 1.5 3"')
        .nullable()
        .default(null),
      /** When the first point was recorded, in seconds since 1970, where that is known. */
      began: z.number().min(-1e11).max(1e11).nullable().default(null),
      /** Metres above the sea at each point, where they are known. */
      heights: z
        .string()
        .max(9 * LIMITS.trackPoints)
        .regex(HEIGHTS_PATTERN, 'must be metres like "12 13.5 -2"')
        .nullable()
        .default(null),
    })
    .refine(({ points }) => countIn(points) <= LIMITS.trackPoints, `has more than ${LIMITS.trackPoints} points`)
    .refine(({ points, times }) => times === null || countIn(times) === countIn(points), 'has not as many times as points')
    .refine(({ times }) => times === null || isRising(times), 'has times that fall: each point is reached after the one before')
    .refine(({ points, heights }) => heights === null || countIn(heights) === countIn(points), 'has not as many heights as points'),
  /** The best way over the networks of a mode, by way of some spots; straight where there is none. */
  z.strictObject({
    kind: z.literal('network'),
    mode: z.enum(NETWORK_MODES),
    by: z.enum(['distance', 'time']).default('time'),
    vias: z.array(point).max(LIMITS.vias).default([]),
  }),
])

/** How one vehicle gives way to another, and how it comes at the start and goes at the end. */
const CHANGES = ['fade', 'pop', 'cut'] as const
const ENTERS = ['none', 'fade', 'pop'] as const
const LEAVES = ['fade', 'shrink', 'none'] as const

/** What a vehicle carries over itself: a plate with a few words, a flag, or a picture of one's own. `size` is its height in rpx. */
export const carriedSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('plate'),
    text: z.string().trim().min(1).max(40),
    paper: colour.default('#fbf6ea'),
    colour: colour.default('#14233a'),
    size: z.number().min(10).max(300).default(40),
  }),
  z.strictObject({
    kind: z.literal('flag'),
    colour: colour.default('#d8412f'),
    second: colour.default('#fbf6ea'),
    size: z.number().min(10).max(300).default(46),
  }),
  z.strictObject({ kind: z.literal('picture'), picture: photoSchema, size: z.number().min(10).max(300).default(64) }),
])

/** Fields of every vehicle. Missing ones are those of its drawing, or of a vehicle that carries nothing and keeps still. */
const ofEvery = {
  carries: carriedSchema.optional(),
  /** How much it bounces, rolls or sways as it travels; wheels that are seen from the side turn. */
  lively: unit.optional(),
  /** How fast it travels in earnest, in km/h, for sharing out travel times by speed. */
  speed: z.number().min(0.1).max(3000).optional(),
}

/** The most that a vehicle seen from the side leans with its line, in degrees; what its drawing says where nothing is said. */
const lean = z.number().min(0).max(MOST_SET_LEAN).optional()

export const vehicleSchema = z.discriminatedUnion('kind', [
  /** One of the vehicles that ship with the application. */
  z.strictObject({
    kind: z.literal('catalogue'),
    artwork: z.enum(VEHICLE_IDS),
    colour: colour.default('#d8412f'),
    /** The colours of its light parts and of its dark ones; those of the drawing where nothing is said. */
    second: colour.optional(),
    third: colour.optional(),
    /** Length of the vehicle in rpx. */
    size: z.number().min(12).max(600).default(110),
    lean,
    ...ofEvery,
    /** How high one that flies rises, and how far its shadow parts from it: 1 where nothing is said, 0 stays on the ground. */
    altitude: z.number().min(0).max(MOST_ALTITUDE).optional(),
  }),
  /** A picture of one's own. */
  z.strictObject({
    kind: z.literal('image'),
    picture: photoSchema,
    view: z.enum(['above', 'side', 'upright']).default('side'),
    /** Direction the picture faces, in degrees clockwise from "to the right". */
    facing: z.number().min(-180).max(180).default(0),
    /** The point that rides on the line, as shares of the picture's width and height. */
    anchor: anchorSchema.default({ x: 0.5, y: 1 }),
    /** Its longer side in rpx. */
    size: z.number().min(12).max(600).default(140),
    lean,
    ...ofEvery,
  }),
])

/** A vehicle that takes over at a share of a leg's length. */
const vehicleChangeSchema = z.strictObject({
  at: z.number().min(0.001).max(0.999),
  vehicle: vehicleSchema.nullable(),
  how: z.enum(CHANGES).default('fade'),
})

/** The most that a leg is moved aside, in rpx. */
export const MOST_ASIDE = 80

export const legSchema = z.strictObject({
  id,
  course: courseSchema.prefault({ kind: 'straight' }),
  /** Travel time in seconds; null for an automatic share of what is left of the total. */
  travel: z.number().min(0.1).max(LIMITS.seconds).nullable().default(null),
  easing: easingSchema.default('gentle'),
  /** Where it is travelled faster or slower, and where one rests on the way; a rest is part of the travel time. */
  paceMarks: z.array(paceMarkSchema).max(LIMITS.paceMarks).default([]),
  vehicle: vehicleSchema.nullable().default(null),
  /** Vehicles that take over on the way. */
  changes: z.array(vehicleChangeSchema).max(LIMITS.changes).default([]),
  /** How far to the right of its course the leg is travelled, in rpx, so that legs that share their way run side by side. */
  aside: z.number().min(-MOST_ASIDE).max(MOST_ASIDE).default(0),
  ink: inkSchema.prefault({}),
})

/** Lines to travel along by one mode, such as the roads of a region. */
export const networkSchema = z.strictObject({
  id,
  name: z.string().trim().max(120).default(''),
  mode: z.enum(NETWORK_MODES),
  lines: z
    .array(
      z.strictObject({
        points: z
          .string()
          .max(24 * LIMITS.trackPoints)
          .regex(POINTS_PATTERN, 'must be points like "12.5,8 13,9.25"'),
        /** Travel speed in km/h. */
        speed: z.number().min(1).max(1000),
      }),
    )
    .max(LIMITS.networkLines)
    .refine(
      (lines) => lines.reduce((sum, line) => sum + countIn(line.points), 0) <= LIMITS.trackPoints,
      `have more than ${LIMITS.trackPoints} points`,
    ),
})

/** A stop may be visited any number of times. */
export const visitSchema = z.strictObject({
  stop: id,
  /** Seconds spent there; null for automatic. */
  layover: seconds.nullable().default(null),
  /** The second of the film at which it is reached, and left; null where nothing holds it. Of the first visit only the end counts, of the last one only the beginning. */
  arriveAt: seconds.nullable().default(null),
  leaveAt: seconds.nullable().default(null),
  /** The day of arrival, as year-month-day. */
  date: z.iso.date().nullable().default(null),
})

export const travellerSchema = z.strictObject({
  id,
  name: z.string().trim().max(60).default(''),
  /** The default for its new legs and vehicles. */
  colour: colour.default('#d8412f'),
  /** Whether it is in the film. */
  shown: z.boolean().default(true),
  startDelay: seconds.default(0),
  visits: z.array(visitSchema).max(LIMITS.visits),
  legs: z.array(legSchema).max(LIMITS.visits),
  /** Whether the last vehicle stays in the picture or gives way to the pin. */
  atEnd: z.enum(['stays', 'leaves']).default('leaves'),
  /** How its first vehicle comes, how its vehicles change at stops, and how the last one leaves. */
  enters: z.enum(ENTERS).default('none'),
  changes: z.enum(CHANGES).default('fade'),
  leaves: z.enum(LEAVES).default('fade'),
})

/** The layers of a frame over the map, in their usual order. Marks are pins and pictures beside the way. */
export const LAYERS = ['lines', 'marks', 'vehicles', 'labels', 'cards'] as const

export const journeySchema = z
  .strictObject({
    format: z.literal(JOURNEY_FORMAT),
    version: z.literal(JOURNEY_VERSION),
    name: title,
    frame: frameSchema,
    /** Length of the film. */
    seconds: z.number().min(1).max(LIMITS.seconds),
    ground: groundSchema.prefault({}),
    /** From the lowest to the uppermost; the pixels of the first are the ground's unit. */
    sheets: z.array(sheetSchema).max(LIMITS.sheets).default([]),
    areas: z.array(areaSchema).max(LIMITS.areas).default([]),
    /** Whether the film ends with a line that names the sources. */
    creditLine: z.boolean().default(false),
    networks: z.array(networkSchema).max(LIMITS.networks).default([]),
    /** The view with which the film begins, unless a shot does. */
    camera: viewSchema,
    /** How the camera films where no shot says so. */
    plan: planSchema.prefault({}),
    /** What the camera films, in any order. */
    shots: z.array(shotSchema).max(LIMITS.shots).default([]),
    /** The frames of other shapes in which it is also filmed. */
    reframes: z.array(reframeSchema).max(LIMITS.reframes).default([]),
    depth: depthSchema.prefault({}),
    /** Titles and readouts, from the lowest to the uppermost. */
    captions: z.array(captionSchema).max(LIMITS.captions).default([]),
    measures: measuresSchema.prefault({}),
    /** How automatic travel times share what the set ones leave. */
    share: shareSchema.prefault({}),
    /** Seconds that a leg with an automatic time takes on average, where the film is as long as its trips need; null where its length is set. */
    legSeconds: z.number().min(0.25).max(60).nullable().default(null),
    notes: z.array(noteSchema).max(LIMITS.notes).default([]),
    /** What is heard with the film. */
    audio: z.array(audioSchema).max(LIMITS.audio).default([]),
    sounds: soundsSchema.prefault({}),
    stops: z.array(stopSchema).max(LIMITS.stops).default([]),
    /** What is over what, from the lowest to the uppermost: the map is under all, titles are over all. */
    order: z
      .array(z.enum(LAYERS))
      .length(LAYERS.length)
      .refine((order) => new Set(order).size === LAYERS.length, 'must have each layer once')
      .default([...LAYERS]),
    /** Fonts of one's own that its texts are set in. */
    fonts: z.array(fontSchema).max(LIMITS.fonts).default([]),
    /** Colours that are kept for use again. */
    colours: z.array(colour).max(LIMITS.colours).default([]),
    /** What is seen beside the way, from the lowest to the uppermost. */
    landmarks: z.array(landmarkSchema).max(LIMITS.landmarks).default([]),
    /** From the lowest to the uppermost. They may share stops. */
    travellers: z.array(travellerSchema).min(1).max(LIMITS.travellers),
  })
  .superRefine(checkReferences)

function checkReferences(journey: z.output<typeof journeySchema>, context: z.RefinementCtx): void {
  const complain = (path: PropertyKey[], message: string) => context.addIssue({ code: 'custom', path, message })
  const known = new Set<string>()
  journey.stops.forEach((stop, i) => {
    if (known.has(stop.id)) complain(['stops', i, 'id'], `is "${stop.id}", which another stop has already`)
    known.add(stop.id)
  })
  const uniqueIds = (
    list: readonly { id: string }[],
    field: 'sheets' | 'areas' | 'networks' | 'travellers' | 'shots' | 'captions' | 'landmarks' | 'notes' | 'audio',
    what: string,
  ) => {
    const seen = new Set<string>()
    list.forEach((entry, i) => {
      if (seen.has(entry.id)) complain([field, i, 'id'], `is "${entry.id}", which another ${what} has already`)
      seen.add(entry.id)
    })
  }
  uniqueIds(journey.sheets, 'sheets', 'sheet')
  uniqueIds(journey.areas, 'areas', 'area')
  uniqueIds(journey.networks, 'networks', 'network')
  uniqueIds(journey.travellers, 'travellers', 'traveller')
  uniqueIds(journey.shots, 'shots', 'shot')
  uniqueIds(journey.captions, 'captions', 'caption')
  uniqueIds(journey.landmarks, 'landmarks', 'landmark')
  uniqueIds(journey.notes, 'notes', 'note')
  uniqueIds(journey.audio, 'audio', 'piece of sound')
  journey.landmarks.forEach(({ id }, i) => {
    if (known.has(id)) complain(['landmarks', i, 'id'], `is "${id}", which a stop has already`)
  })
  const checkMoment = (moment: Moment | undefined, path: PropertyKey[]) => {
    if (moment && 'stop' in moment && !journey.travellers.some(({ visits }) => visits.some((visit) => visit.stop === moment.stop)))
      complain([...path, 'stop'], `names the stop "${moment.stop}", which nobody visits`)
  }
  const legs = new Set(journey.travellers.flatMap((traveller) => traveller.legs.map(({ id }) => id)))
  const travellers = new Set(journey.travellers.map(({ id }) => id))
  const checkShot = (shot: Shot, path: PropertyKey[]) => {
    for (const subject of subjectsOf(shot)) {
      const at = [...path, ...subject.path]
      switch (subject.kind) {
        case 'stop':
          checkMoment({ at: 'arrival', stop: subject.id, offset: 0 }, at.slice(0, -1))
          break
        case 'leg':
          if (!legs.has(subject.id)) complain(at, `names the leg "${subject.id}", which is not in the journey`)
          break
        case 'traveller':
          if (!travellers.has(subject.id)) complain(at, `names the traveller "${subject.id}", who is not in the journey`)
          break
        default:
          subject.kind satisfies never
      }
    }
  }
  const checkSpan = (shown: Span | null, path: PropertyKey[]) => {
    for (const end of ['from', 'to'] as const) checkMoment(shown?.[end], [...path, 'shown', end])
  }
  journey.shots.forEach((shot, i) => {
    checkMoment(shot.at, ['shots', i, 'at'])
    checkShot(shot, ['shots', i])
  })
  const focus = journey.depth.softFocus?.on
  if (focus?.kind === 'stop') checkMoment({ at: 'arrival', stop: focus.stop, offset: 0 }, ['depth', 'softFocus', 'on'])
  journey.notes.forEach(({ at }, i) => checkMoment(at, ['notes', i, 'at']))
  journey.sheets.forEach((sheet, i) => {
    checkSpan(sheet.shown, ['sheets', i])
    const { crop } = sheet
    if (crop && !(crop.left < crop.right && crop.right <= sheet.width && crop.top < crop.bottom && crop.bottom <= sheet.height))
      complain(['sheets', i, 'crop'], 'is not a part of the sheet')
  })
  journey.areas.forEach((area, i) => checkSpan(area.shown, ['areas', i]))
  journey.landmarks.forEach(({ shown }, i) => checkSpan(shown, ['landmarks', i]))
  journey.captions.forEach(({ shown, content }, i) => {
    checkSpan(shown, ['captions', i])
    if ('traveller' in content && content.traveller !== null && !journey.travellers.some(({ id }) => id === content.traveller))
      complain(['captions', i, 'content', 'traveller'], `names the traveller "${content.traveller}", who is not in the journey`)
  })
  const fonts = new Set<string>(journey.fonts.map(({ file }) => ownFamily(file)))
  const checkFont = ({ family }: { family: FamilyName }, path: PropertyKey[]) => {
    if (isOwnFamily(family) && !fonts.has(family))
      complain([...path, 'style', 'family'], 'names a font that is not with the journey: add its file first')
  }
  journey.stops.forEach(({ label }, i) => checkFont(label.style, ['stops', i, 'label']))
  journey.landmarks.forEach((landmark, i) => landmark.kind === 'mark' && checkFont(landmark.label.style, ['landmarks', i, 'label']))
  journey.captions.forEach(({ style }, i) => checkFont(style, ['captions', i]))
  const legIds = new Set<string>()
  journey.travellers.forEach((traveller, t) => {
    const path = ['travellers', t]
    traveller.visits.forEach((visit, i) => {
      if (!known.has(visit.stop)) complain([...path, 'visits', i, 'stop'], `names the stop "${visit.stop}", which is not in the journey`)
    })
    const wanted = Math.max(0, traveller.visits.length - 1)
    if (traveller.legs.length !== wanted) {
      complain([...path, 'legs'], `has ${traveller.legs.length} legs, but ${traveller.visits.length} visits need ${wanted}`)
    }
    traveller.legs.forEach((leg, i) => {
      if (legIds.has(leg.id)) complain([...path, 'legs', i, 'id'], `is "${leg.id}", which another leg has already`)
      legIds.add(leg.id)
    })
  })
}

export type Journey = z.output<typeof journeySchema>
export type JourneyInput = z.input<typeof journeySchema>
export type Layer = (typeof LAYERS)[number]
export type FrameFormat = z.output<typeof frameSchema>
export type CourseShape = z.output<typeof courseSchema>
export type DrawnCourse = Extract<CourseShape, { kind: 'drawn' }>
export type CourseNode = z.output<typeof nodeSchema>
export type NodeKind = (typeof NODE_KINDS)[number]
export type TrackCourse = Extract<CourseShape, { kind: 'track' }>
export type NetworkCourse = Extract<CourseShape, { kind: 'network' }>
export type Network = z.output<typeof networkSchema>
export type NetworkMode = (typeof NETWORK_MODES)[number]
export type VehicleChoice = z.output<typeof vehicleSchema>
export type Carried = z.output<typeof carriedSchema>
export type VehicleChange = z.output<typeof vehicleChangeSchema>
export type Leg = z.output<typeof legSchema>
export type Traveller = z.output<typeof travellerSchema>
