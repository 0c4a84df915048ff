import { z } from 'zod'
import { FRAME_SIDES } from '../camera/frame-side'
import { GREATEST_PITCH, GREATEST_ZOOM, LEAST_ZOOM } from '../camera/view'

/** Limits that keep memory and time bounded whatever a file says. */
export const LIMITS = {
  side: FRAME_SIDES.most,
  seconds: 600,
  stops: 200,
  /** Visits of one traveller. */
  visits: 400,
  travellers: 12,
  nodes: 2000,
  /** Points of one recorded track, or of all lines of a network. */
  trackPoints: 100_000,
  networks: 6,
  networkLines: 5000,
  vias: 50,
  /** Lines of one leg, over the first one. */
  inksOver: 4,
  /** Changes of the vehicle on one leg. */
  changes: 20,
  shots: 200,
  /** Frames of other shapes. */
  reframes: 8,
  captions: 20,
  fonts: 12,
  landmarks: 100,
  /** Kept for use again. */
  colours: 24,
  /** Findings of the checks that are as they should be. */
  accepted: 200,
  /** Of one stop. */
  postcards: 12,
  notes: 200,
  valueMarks: 400,
  /** Pieces of music or speech, and the beats of one. */
  audio: 4,
  beats: 5000,
  /** Marks of one leg at which its pace changes. */
  paceMarks: 20,
  coordinate: 1e7,
  sheets: 20,
  controlPoints: 200,
  areas: 50,
  /** Points in the outlines of one area. */
  outline: 40_000,
} as const

/** The colours of the house, which new things take and fields offer first. */
export const HOUSE_COLOURS = ['#d8412f', '#17646b', '#27406b', '#c9962b', '#14233a', '#fbf6ea'] as const

/** A side of a frame, in pixels. */
export const evenSide = z.int().min(FRAME_SIDES.least).max(LIMITS.side).multipleOf(2, 'must be an even number of pixels')

/** The kinds of value that several parts of the journey document are made of. */
export const id = z.string().regex(/^[\w-]{1,40}$/, 'must be 1 to 40 letters, digits, - or _')
export const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour like #1f7a7a, in small letters')
/** Images, fonts and sounds are known by the SHA-256 of their files, in hexadecimal. */
export const isFileHash = (text: string): boolean => /^[0-9a-f]{64}$/.test(text)
export const fileHash = z.string().refine(isFileHash, 'must be a SHA-256 in hexadecimal')
export const coordinate = z.number().min(-LIMITS.coordinate).max(LIMITS.coordinate)
export const point = z.strictObject({ x: coordinate, y: coordinate })
export const seconds = z.number().min(0).max(LIMITS.seconds)
/** How long something takes to come, to go or to change, in seconds; as long as is usual where it is missing. */
export const lasting = z.number().min(0.05).max(10).optional()
export const unit = z.number().min(0).max(1)
export const lonLat = { lon: z.number().min(-180).max(180), lat: z.number().min(-90).max(90) }

/** A moment tied to the journey, so that it moves along when the pace changes: `offset` seconds after its anchor. */
export const momentSchema = z.discriminatedUnion('at', [
  z.strictObject({ at: z.enum(['start', 'end']), offset: z.number().min(-LIMITS.seconds).max(LIMITS.seconds).default(0) }),
  z.strictObject({
    at: z.enum(['arrival', 'departure']),
    stop: id,
    offset: z.number().min(-LIMITS.seconds).max(LIMITS.seconds).default(0),
  }),
])

/** A stretch of the journey during which something is shown; it comes and goes with a fade, in seconds. */
export const spanSchema = z.strictObject({ from: momentSchema, to: momentSchema, fade: z.number().min(0).max(10).default(0.6) })

/** A view of the camera: see core/camera/view.ts. */
export const viewSchema = z.strictObject({
  centre: point,
  zoom: z.number().min(LEAST_ZOOM).max(GREATEST_ZOOM),
  bearing: z.number().min(-180).max(180).default(0),
  pitch: z.number().min(0).max(GREATEST_PITCH).default(0),
})

export type Moment = z.output<typeof momentSchema>
export type Span = z.output<typeof spanSchema>

/** A name of one line: of so many letters at most, without line breaks and other control characters. */
export const lineOfText = (most: number) =>
  z
    .string()
    .trim()
    .min(1)
    .max(most)
    .regex(/^\P{Cc}*$/u, 'must be one line, without control characters')
