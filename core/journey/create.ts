import { flatView, referenceSize } from '../camera/view'
import type { FrameFormat, Journey } from './schema'
import {
  depthSchema,
  groundSchema,
  measuresSchema,
  JOURNEY_FORMAT,
  JOURNEY_VERSION,
  LAYERS,
  planSchema,
  shareSchema,
  soundsSchema,
  travellerSchema,
} from './schema'

/** Frame sizes on offer: [name, width, height]. 4:5 and 9:16 are for upright feeds (common practice, no source). */
export const FRAME_SIZES = {
  '16:9': [
    ['720p', 1280, 720],
    ['1080p', 1920, 1080],
    ['1440p', 2560, 1440],
    ['4K', 3840, 2160],
  ],
  '9:16': [
    ['720 wide', 720, 1280],
    ['1080 wide', 1080, 1920],
    ['1440 wide', 1440, 2560],
    ['4K upright', 2160, 3840],
  ],
  '1:1': [
    ['720 square', 720, 720],
    ['1080 square', 1080, 1080],
    ['2160 square', 2160, 2160],
  ],
  '4:5': [
    ['864 wide', 864, 1080],
    ['1080 wide', 1080, 1350],
    ['2160 wide', 2160, 2700],
  ],
} as const satisfies Record<string, readonly (readonly [string, number, number])[]>

export type Aspect = keyof typeof FRAME_SIZES

/** 30 frames a second, 1080p: common practice for travel clips, no source. */
export const DEFAULT_FRAME: FrameFormat = { width: 1920, height: 1080, rate: '30/1' }

/** About 5 s a stop, so 20 s for a journey of four: common practice, no source. */
const DEFAULT_SECONDS = 20

/** An empty journey. Without a sheet the ground is the frame itself, one ground unit to the reference pixel. */
export function createJourney(name: string, frame: FrameFormat = DEFAULT_FRAME, seconds = DEFAULT_SECONDS): Journey {
  const reference = referenceSize(frame)
  return {
    format: JOURNEY_FORMAT,
    version: JOURNEY_VERSION,
    name,
    frame,
    shutter: 0,
    seconds,
    ground: groundSchema.parse({}),
    sheets: [],
    areas: [],
    captions: [],
    order: [...LAYERS],
    fonts: [],
    colours: [],
    accepted: [],
    landmarks: [],
    measures: measuresSchema.parse({}),
    creditLine: false,
    networks: [],
    camera: flatView({ x: reference.width / 2, y: reference.height / 2 }, 1),
    plan: planSchema.parse({}),
    shots: [],
    reframes: [],
    depth: depthSchema.parse({}),
    sun: null,
    handheld: null,
    grade: null,
    share: shareSchema.parse({}),
    legSeconds: null,
    notes: [],
    valueMarks: [],
    audio: [],
    sounds: soundsSchema.parse({}),
    stops: [],
    travellers: [travellerSchema.parse({ id: 'traveller', visits: [], legs: [] })],
  }
}
