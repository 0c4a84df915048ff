import type { Arrow, Leader, Stamp } from '#core/journey/schema'
import type { Figure } from './ground-shape'
import { circle, ellipse } from './ground-shape'

/** A mark that is stamped along a line, one unit long; those of a pair are used in turn. */
export const STAMP_FIGURES: Record<Stamp, readonly Figure[]> = {
  chevron: [
    [
      [
        [-0.5, -0.5],
        [-0.08, -0.5],
        [0.5, 0],
        [-0.08, 0.5],
        [-0.5, 0.5],
        [0.08, 0],
      ],
    ],
  ],
  footprints: [-1, 1].map((side) => [ellipse(0.14, 0.36 * side, 0.3, 0.17), ellipse(-0.36, 0.34 * side, 0.14, 0.12)]),
  paws: [-1, 1].map((side) => [
    ellipse(-0.16, 0.3 * side, 0.22, 0.2),
    ...[-0.24, -0.08, 0.09, 0.25].map((y, i) => ellipse(i % 3 === 0 ? 0.1 : 0.24, 0.3 * side + y, 0.11, 0.075)),
  ]),
  waves: [[wave()]],
  diamonds: [
    [
      [
        [-0.5, 0],
        [0, -0.34],
        [0.5, 0],
        [0, 0.34],
      ],
    ],
  ],
  crosses: [[cross()]],
}

/** One wave from crest to crest, across the direction of travel. */
function wave(): [number, number][] {
  const steps = 24
  const line = Array.from({ length: steps + 1 }, (_, i): [number, number] => {
    const u = i / steps
    return [u - 0.5, 0.22 * Math.sin(2 * Math.PI * u)]
  })
  const half = 0.09
  return [...line.map(([x, y]): [number, number] => [x, y - half]), ...line.reverse().map(([x, y]): [number, number] => [x, y + half])]
}

/** Two bars across each other, aslant. */
function cross(): [number, number][] {
  const [long, thin] = [0.48, 0.13]
  return [
    [0, thin * Math.SQRT2],
    [long - thin, long],
    [long, long - thin],
    [thin * Math.SQRT2, 0],
    [long, thin - long],
    [long - thin, -long],
    [0, -thin * Math.SQRT2],
    [thin - long, -long],
    [-long, thin - long],
    [-thin * Math.SQRT2, 0],
    [-long, long - thin],
    [thin - long, long],
  ]
}

interface ArrowFigure {
  /** One unit wide, its tip at the origin. */
  figure: Figure
  /** How far behind the tip its line ends, and how long it is, in its widths. */
  neck: number
  length: number
}

export const ARROW_FIGURES: Record<Arrow['shape'], ArrowFigure> = {
  barbed: {
    figure: [
      [
        [0, 0],
        [-1.05, 0.5],
        [-0.74, 0],
        [-1.05, -0.5],
      ],
    ],
    neck: 0.66,
    length: 1.05,
  },
  broad: {
    figure: [
      [
        [0, 0],
        [-0.78, 0.5],
        [-0.78, -0.5],
      ],
    ],
    neck: 0.7,
    length: 0.78,
  },
  open: {
    figure: [
      [
        [0, 0],
        [-0.62, 0.5],
        [-0.78, 0.36],
        [-0.34, 0],
        [-0.78, -0.36],
        [-0.62, -0.5],
      ],
    ],
    neck: 0.2,
    length: 0.78,
  },
}

/** One unit across, about its middle. */
export const LEADER_FIGURES: Record<Leader['shape'], Figure> = {
  dot: [circle(0, 0, 0.5)],
  ring: [circle(0, 0, 0.5), circle(0, 0, 0.3)],
}
