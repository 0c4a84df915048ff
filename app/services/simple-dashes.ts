import type { Line } from '#core/journey/schema'

/** The dashes, as attributes of an SVG stroke, with which a line of any kind is shown in lists and on the pace strip. */
export function simpleDashes(
  line: Line,
  width: number,
): { 'stroke-dasharray'?: string; 'stroke-linecap': 'round' | 'butt'; opacity?: number } {
  switch (line.kind) {
    case 'solid':
    case 'double':
      return { 'stroke-linecap': 'butt' }
    case 'dashed':
      return { 'stroke-dasharray': `${2.4 * width} ${1.4 * width}`, 'stroke-linecap': 'butt' }
    case 'dotted':
      return { 'stroke-dasharray': `0.1 ${width + 4}`, 'stroke-linecap': 'round' }
    case 'railway':
      return { 'stroke-dasharray': `${0.5 * width} ${0.6 * width}`, 'stroke-linecap': 'butt' }
    case 'stamped':
      return { 'stroke-dasharray': `${width} ${width}`, 'stroke-linecap': 'butt' }
    case 'hidden':
      return { 'stroke-dasharray': `1 ${2 * width}`, 'stroke-linecap': 'butt', opacity: 0.5 }
    default:
      return line satisfies never
  }
}
