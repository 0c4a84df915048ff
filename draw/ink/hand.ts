import { latticeNoise, lineNoise } from '#core/geometry/noise'
import type { Hand } from '#core/journey/schema'
import type { Strand } from './strand'
import { movedAside, STRIDE, widened } from './strand'

/** One of the strokes of a tool; `holds` where it leaves a trace all along, whatever the others do. */
interface Hair {
  aside: number
  width: number
  holds?: boolean
}

/**
 * Lines as if drawn by hand. Where a line runs and how wide it is varies with the length along its course, in reference pixels at the zoom at which its leg
 * is travelled: so it stands still while the line grows, and looks the same at every size.
 */
interface Tool {
  /** How finely the line is cut to vary along it, in reference pixels. */
  step: number
  /** How far it strays to either side, as a share of its width, and over how long a way, in reference pixels. */
  stray: number
  strayLength: number
  /** The strokes that make up the line: where they run and how wide they are, as shares of its width. */
  hairs: readonly Hair[]
  /** How much a hair's width varies, as a share of it, and over how long a way. */
  vary: number
  varyLength: number
  /** The share of its way over which a hair leaves no trace, and the length of such holes. */
  holes: number
  holeLength: number
}

const TOOLS: Record<Exclude<Hand, 'none'>, Tool> = {
  pencil: {
    step: 4,
    stray: 0.3,
    strayLength: 46,
    hairs: [
      { aside: -0.14, width: 0.52 },
      { aside: 0.16, width: 0.42 },
    ],
    vary: 0.4,
    varyLength: 17,
    holes: 0,
    holeLength: 1,
  },
  brush: {
    step: 5,
    stray: 0.1,
    strayLength: 90,
    // The inner ones hold, and overlap at their narrowest: only the edges of a brush run dry.
    hairs: [
      { aside: 0, width: 0.56, holds: true },
      ...[-0.5, -0.42, -0.33, -0.25, 0.26, 0.35, 0.43, 0.5].map((aside) => ({ aside, width: 0.16, holds: Math.abs(aside) < 0.4 })),
    ],
    vary: 0.3,
    varyLength: 38,
    holes: 0.2,
    holeLength: 26,
  },
  chalk: {
    step: 1.5,
    stray: 0.1,
    strayLength: 60,
    hairs: [-0.46, -0.35, -0.23, -0.11, 0.01, 0.12, 0.24, 0.36, 0.47].map((aside) => ({ aside, width: 0.16 })),
    vary: 0.55,
    varyLength: 6,
    holes: 0.3,
    holeLength: 4.5,
  },
}

/** The step at which strands have to be cut for a hand, in reference pixels; Infinity for lines that are not drawn by hand. */
export const stepOf = (hand: Hand): number => (hand === 'none' ? Infinity : TOOLS[hand].step)

/** How far a hand-drawn line reaches beyond its width on either side, as a share of that. */
export const STRAY_REACH = 0.45

/**
 * The strands that a hand makes of those of a clean line.
 * @param width of the line in reference pixels
 * @param scale reference pixels per ground unit of the course, as travelled
 */
export function drawnByHand(strands: readonly Strand[], hand: Hand, width: number, seed: number, scale: number): Strand[] {
  if (hand === 'none') return [...strands]
  const { stray, strayLength, hairs, vary, varyLength, holes, holeLength } = TOOLS[hand]
  return strands.flatMap((strand) => {
    const path = movedAside(strand, (s) => stray * width * lineNoise(seed, (s * scale) / strayLength))
    return hairs.flatMap((hair, i) => {
      const own = seed + 101 * (i + 1)
      const aside = hair.aside === 0 ? path : movedAside(path, () => hair.aside * width)
      const line = widened(aside, (s) => hair.width * (1 + vary * lineNoise(own, (s * scale) / varyLength)))
      return holes > 0 && !hair.holds ? withHoles(line, (s) => isHole(own + 13, (s * scale) / holeLength, holes)) : [line]
    })
  })
}

/** Whether there is nothing at a place along a hair. A cell is a hole with the given probability. */
const isHole = (seed: number, x: number, share: number): boolean => (latticeNoise(Math.floor(x), seed) + 1) / 2 < share

/** The runs of a strand outside of its holes. */
function withHoles({ points, isEven }: Strand, isHoleAt: (s: number) => boolean): Strand[] {
  const runs: Strand[] = []
  let run: number[] = []
  for (let i = 0; i < points.length; i += STRIDE) {
    if (!isHoleAt(points[i + 3]!)) run.push(points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!)
    else if (run.length > 0) {
      if (run.length > STRIDE) runs.push({ points: run, isEven })
      run = []
    }
  }
  if (run.length > STRIDE) runs.push({ points: run, isEven })
  return runs
}
