import { escapeXml } from './escape-xml'
import { SaxesParser } from 'saxes'
import type { Size } from '../geometry/size'
import { JourneyError } from '../error'

/** A drawing that has nothing in it but shapes: safe to hand to a renderer. */
export interface CleanSvg {
  /** What stands inside the root element, and the root's own presentation attributes. */
  body: string
  attributes: string
  /** The drawing's own coordinate rectangle: x, y, width, height. */
  viewBox: readonly [number, number, number, number]
  hasText: boolean
}

/** Elements of SVG 2 that draw, or say how something is drawn. All others are left out with their contents: scripts, foreign objects, links, animations. */
const ALLOWED = new Set(
  `svg g defs symbol use path rect circle ellipse line polyline polygon text tspan textPath image switch a style title desc
  linearGradient radialGradient stop pattern clipPath mask marker filter
  feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting feDisplacementMap feDistantLight feDropShadow feFlood
  feFuncA feFuncB feFuncG feFuncR feGaussianBlur feMerge feMergeNode feMorphology feOffset fePointLight feSpecularLighting feSpotLight feTile feTurbulence`.split(
    /\s+/,
  ),
)

const LIMITS = { elements: 1_000_000, drawn: 4_000_000, depth: 200 } as const

/** References to picture data in the file, or to a part of the file; nothing outside it. */
const isInside = (href: string): boolean => href.startsWith('#') || /^data:image\/(png|jpeg|webp|gif);base64,[\w+/=\s]*$/i.test(href)

/** Styles without anything that leads out of the file. In linear time, which a regular expression would not take for thousands of unclosed brackets. */
function cleanStyle(css: string): string {
  const [first, ...rest] = css.replace(/@import[^;]*;?/gi, '').split(/url\(/i)
  let out = first!
  for (const [i, part] of rest.entries()) {
    const end = part.indexOf(')')
    // Without its bracket it goes on over what follows.
    if (end < 0 && i < rest.length - 1) continue
    out += /^\s*["']?#/.test(part) ? `url(${part}` : `none${end < 0 ? '' : part.slice(end + 1)}`
  }
  return out
}

interface Open {
  name: string
  kept: boolean
}

/**
 * Reads an SVG and keeps what draws: no scripts, no event handlers, no references to anything outside.
 * @throws JourneyError for what is not well-formed, uses XML entities, or would draw more than a few million shapes.
 */
export function cleanSvg(text: string, name: string): CleanSvg {
  const out: string[] = []
  const stack: Open[] = []
  const counts = new DrawnCounts()
  let root: { attributes: Record<string, string> } | undefined
  let elements = 0
  let dropped = 0
  let hasText = false
  const parser = new SaxesParser({ xmlns: false, position: true })
  const fail = (message: string): never => {
    throw new JourneyError(`“${name}” ${message}`)
  }
  parser.on('error', (error) => {
    const reason = /entity/i.test(error.message) ? 'uses XML entities of its own, which are not read: save it as plain SVG.' : undefined
    fail(reason ?? `is not a well-formed SVG (line ${parser.line}, column ${parser.column}): save it again as SVG.`)
  })
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/i.test(doctype)) fail('uses XML entities of its own, which are not read: save it as plain SVG.')
  })
  parser.on('opentag', (tag) => {
    const local = tag.name.replace(/^svg:/, '')
    if (!root) {
      if (local !== 'svg') fail(`is not an SVG: its outermost element is <${tag.name.slice(0, 40)}>.`)
      root = { attributes: tag.attributes }
      stack.push({ name: local, kept: true })
      return
    }
    if (++elements > LIMITS.elements) fail(`has more than ${LIMITS.elements} elements: simplify it.`)
    if (stack.length > LIMITS.depth) fail(`is nested more than ${LIMITS.depth} deep: ungroup it.`)
    const kept = dropped === 0 && ALLOWED.has(local)
    stack.push({ name: local, kept })
    if (!kept) return void dropped++
    hasText ||= local === 'text'
    counts.open(tag.attributes.id as string | undefined)
    const target = hrefOf(tag.attributes)
    if (local === 'use' && target?.startsWith('#')) counts.use(target.slice(1))
    out.push(`<${local}${attributesOf(tag.attributes)}>`)
  })
  const write = (content: string) => {
    if (dropped > 0 || stack.length === 0) return
    out.push(escapeXml(stack.at(-1)!.name === 'style' ? cleanStyle(content) : content))
  }
  parser.on('text', write)
  parser.on('cdata', write)
  parser.on('closetag', () => {
    const open = stack.pop()!
    if (stack.length === 0) return
    if (!open.kept) return void dropped--
    counts.close()
    out.push(`</${open.name}>`)
  })
  parser.write(text).close()
  if (!root) return fail('holds no SVG.')
  if (counts.total() > LIMITS.drawn) fail('repeats its parts millions of times: expand and simplify it.')
  const viewBox = viewBoxOf(root.attributes)
  if (!viewBox) return fail('does not say how large it is: give its outermost element a viewBox.')
  return {
    body: out.join(''),
    attributes: attributesOf(root.attributes, ['width', 'height', 'viewBox', 'x', 'y', 'preserveAspectRatio']),
    viewBox,
    hasText,
  }
}

/** Without a prefix it takes precedence. Source: W3C SVG 2, section 16.1.5. */
const hrefOf = (attributes: Record<string, string>): string | undefined => attributes.href ?? attributes['xlink:href']

function attributesOf(attributes: Record<string, string>, without: readonly string[] = []): string {
  return Object.entries(attributes)
    .filter(([key, value]) => {
      if (
        without.includes(key) ||
        (key === 'xlink:href' && attributes.href !== undefined) ||
        /^on/i.test(key) ||
        key.startsWith('xmlns') ||
        (key.includes(':') && !/^(xlink:href|xml:space)$/.test(key))
      )
        return false
      return /^(xlink:)?href$/.test(key) ? isInside(value) : true
    })
    .map(
      ([key, value]) => ` ${key.replace('xlink:', '')}="${escapeXml(/url\(/i.test(value) || key === 'style' ? cleanStyle(value) : value)}"`,
    )
    .join('')
}

const PIXELS: Record<string, number> = { '': 1, px: 1, pt: 4 / 3, pc: 16, mm: 96 / 25.4, cm: 96 / 2.54, in: 96 }

/** A length in CSS pixels. Source: W3C CSS Values 3, section 6.2. */
function lengthOf(text: string | undefined): number | undefined {
  const match = /^\s*\+?(\d*\.?\d+(?:e[+-]?\d+)?)(px|pt|pc|mm|cm|in)?\s*$/i.exec(text ?? '')
  return match ? Number(match[1]) * PIXELS[match[2]?.toLowerCase() ?? '']! : undefined
}

function viewBoxOf(attributes: Record<string, string>): CleanSvg['viewBox'] | undefined {
  const numbers = attributes.viewBox
    ?.trim()
    .split(/[\s,]+/)
    .map(Number)
  if (numbers?.length === 4 && numbers.every(Number.isFinite) && numbers[2]! > 0 && numbers[3]! > 0)
    return numbers as unknown as CleanSvg['viewBox']
  const [width, height] = [lengthOf(attributes.width), lengthOf(attributes.height)]
  return width && height ? [0, 0, width, height] : undefined
}

interface Counted {
  count: number
  /** The ids inside an element, and those that it uses. */
  parts: string[]
}

/** A longer chain of uses is treated as endless. */
const LONGEST_CHAIN = 500

/** How many elements are drawn when each <use> is followed; copies of copies grow exponentially. */
class DrawnCounts {
  private readonly root: Counted = { count: 0, parts: [] }
  private readonly stack = [this.root]
  private readonly byId = new Map<string, Counted>()

  open(id: string | undefined): void {
    const within = this.stack.at(-1)!
    if (id === undefined) {
      within.count++
      this.stack.push(within)
      return
    }
    const own = { count: 1, parts: [] }
    within.parts.push(id)
    this.byId.set(id, own)
    this.stack.push(own)
  }

  use(id: string): void {
    this.stack.at(-1)!.parts.push(id)
  }

  close(): void {
    this.stack.pop()
  }

  total(): number {
    const known = new Map<string, number>()
    const drawn = ({ count, parts }: Counted, chain: number): number =>
      chain > LONGEST_CHAIN ? Infinity : parts.reduce((sum, id) => sum + drawnById(id, chain + 1), count)
    const drawnById = (id: string, chain: number): number => {
      const found = known.get(id)
      if (found !== undefined) return found
      // One that uses itself is not drawn.
      known.set(id, 0)
      const part = this.byId.get(id)
      const count = part ? drawn(part, chain) : 0
      known.set(id, count)
      return count
    }
    return drawn(this.root, 0)
  }
}

/** Writes a part of a clean drawing as an SVG of its own: `region` in pixels of a picture of `nominal` size, shown at `size` pixels. */
export function svgOfRegion(
  svg: CleanSvg,
  nominal: Size,
  region: { x: number; y: number; width: number; height: number },
  size: Size,
): string {
  const box = [region.x, region.y, region.width, region.height].join(' ')
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}" width="${size.width}" height="${size.height}" preserveAspectRatio="none">` +
    `<svg x="0" y="0" width="${nominal.width}" height="${nominal.height}" viewBox="${svg.viewBox.join(' ')}" preserveAspectRatio="none"${svg.attributes}>${svg.body}</svg></svg>`
  )
}
