import { LRUCache } from 'lru-cache'
import { computed } from 'vue'
import { SAMPLE_COURSE, SAMPLE_SIZE, SAMPLE_VIEW, sampleInk } from '#core/dress/sample'
import type { Frame } from '#core/frame/frame'
import type { Ink } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import { createBrowserStudio } from '~/services/browser-studio'

/** Output pixels to the reference pixel of the samples: enough for high-density screens. */
const SCALE = 0.8

/** Small pictures of lines on a ground of the journey's colour, painted as the film is, as data URLs. */
export function useInkPictures<K extends string>(inks: () => readonly { id: K; ink: Ink }[], ground: () => string) {
  return computed(() => {
    const studio = createBrowserStudio(() => undefined)
    return Object.fromEntries(inks().map(({ id, ink }) => [id, known(ink, ground(), () => pictureOf(studio, ink, ground()))])) as Record<
      K,
      string
    >
  })
}

/** The pictures that were painted last, by all that they depend on: while something else of a leg is changed, they stay as they are. */
const painted = new LRUCache<string, string>({ max: 300 })
function known(ink: Ink, ground: string, paint: () => string): string {
  const key = `${ground} ${JSON.stringify(ink)}`
  const picture = painted.get(key) ?? paint()
  painted.set(key, picture)
  return picture
}

function pictureOf(studio: ReturnType<typeof createBrowserStudio>, ink: Ink, ground: string): string {
  const canvas = document.createElement('canvas')
  canvas.width = SAMPLE_SIZE.width * SCALE
  canvas.height = SAMPLE_SIZE.height * SCALE
  const frame: Frame = {
    time: 0,
    size: { width: canvas.width, height: canvas.height },
    scale: SCALE,
    reference: SAMPLE_SIZE,
    view: SAMPLE_VIEW,
    isMoving: true,
    sun: null,
    items: [
      { kind: 'ground', ground: { colour: ground, second: null, direction: 0, edge: 'plain', panel: NO_PANEL, names: null } },
      {
        kind: 'ink',
        leg: 'sample',
        layer: 0,
        course: SAMPLE_COURSE,
        tail: 0,
        head: SAMPLE_COURSE.length,
        front: Infinity,
        patternZoom: 1,
        phase: 0,
        opacity: ink.opacity,
        light: 1,
        spark: ink.glow?.spark ? SAMPLE_COURSE.length * 0.7 : null,
        leads: true,
        ink: sampleInk(ink),
      },
    ],
    motions: [],
  }
  createPainter(studio).paint(frame, canvas.getContext('2d')!, SCALE)
  return canvas.toDataURL('image/webp', 0.9)
}

const NO_PANEL = { shadow: 0, reach: 0, border: 0, borderColour: '#000000' }
