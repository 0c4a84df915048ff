import { computedAsync } from '@vueuse/core'
import { computed } from 'vue'
import type { TextLook } from '#core/dress/text-styles'
import { setBlock } from '#core/type/block'
import type { TextStyle } from '#core/journey/schema'
import { paintText } from '#draw/type/text'
import { loadFaces } from '~/services/frame-fonts'

/** The size of the pictures in CSS pixels, and their resolution: enough for high-density screens. */
const SIZE = { width: 94, height: 46 }
const DENSITY = 2

/** Letters are at most so large; a word that is too wide is set smaller. */
const LARGEST = 25
const ROOM = 0.8

/** Small pictures of a word in several looks, on a ground of a colour, painted as the film is, as data URLs; none while the typefaces are loading. */
export function useTextPictures(looks: readonly TextLook[], word: () => string, ground: () => string) {
  // They are painted anew when these change, not with every change of the journey that they are taken from.
  const [asked, below] = [computed(word), computed(ground)]
  return computedAsync<Record<string, string>>(async () => {
    const [text, colour] = [asked.value, below.value]
    await loadFaces(looks.map(({ style }) => style))
    return Object.fromEntries(looks.map(({ id, style }) => [id, pictureOf(text, style, colour)]))
  }, {})
}

function pictureOf(text: string, style: TextStyle, ground: string): string {
  const canvas = document.createElement('canvas')
  canvas.width = SIZE.width * DENSITY
  canvas.height = SIZE.height * DENSITY
  const context = canvas.getContext('2d')!
  context.fillStyle = ground
  context.fillRect(0, 0, canvas.width, canvas.height)
  const natural = setBlock([{ text }], { ...style, size: LARGEST }, Infinity)
  const size = LARGEST * Math.min(1, (SIZE.width * ROOM) / (natural.width + (style.plate ? LARGEST : 0)))
  const block = setBlock([{ text }], { ...style, size }, Infinity)
  context.scale(DENSITY, DENSITY)
  paintText(context, {
    block,
    style: { ...style, size },
    align: 'center',
    x: SIZE.width / 2,
    top: (SIZE.height - block.height) / 2,
    appears: { style: 'none', by: 'whole' },
    parts: 1,
    elapsed: null,
    pivot: { x: 0, y: 0 },
    scale: DENSITY,
    fall: { x: 0, y: 1 },
  })
  return canvas.toDataURL('image/webp', 0.9)
}
