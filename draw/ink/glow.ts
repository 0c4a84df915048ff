import type { Glow } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import type { Region } from '../region'
import type { InkPart } from './ink-parts'
import type { Erase, Softener } from './soft'
import { GAUSSIAN_REACH, laySoft } from './soft'

/**
 * The light of a line: a sum of a narrow and a wide Gaussian, each as bright as asked right over the line, so that it falls off fast near the line and slowly
 * further out. It is added to what lies under it (screen), which is dyed in its colour first (multiply): that changes nothing on a dark map, and lets the
 * light be seen on a pale one.
 */
const LIGHTS = [
  { sigma: 0.16, share: 0.55 },
  { sigma: 0.46, share: 0.45 },
] as const

/** How much the light dyes what it falls on. */
const DYE = 0.75

/** How far a glow reaches beyond the line, as a share of its radius. */
export const GLOW_REACH = GAUSSIAN_REACH * LIGHTS[1].sigma

/** The error function to 1.5e-7. Source: Abramowitz and Stegun, Handbook of Mathematical Functions, 7.1.26. */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x))
  const y = 1 - ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x)
  return x < 0 ? -y : y
}

/** What shines: parts of a line of some width, in reference pixels, and how strongly, 0 to 1. */
export interface Shining {
  parts: readonly InkPart[]
  width: number
  glow: Glow
  strength: number
}

/** Paints the glow of parts of a line. @param over regions that hold all of it, in whole output pixels */
export function paintGlow(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  { parts, width, glow: { colour, radius }, strength }: Shining,
  over: readonly Region[],
  softener: Softener,
  erase?: Erase,
): void {
  // A narrow line is faint once it is blurred, so it is made as bright as asked again.
  const lights = LIGHTS.map(({ sigma, share }) => ({ sigma: sigma * radius, gain: share / erf(width / (2 * Math.SQRT2 * sigma * radius)) }))
  const light = softener.soften(space, parts, colour, lights, over, { erase })
  if (!light) return
  const lay = (opacity: number, how: GlobalCompositeOperation) => {
    context.globalAlpha = opacity
    context.globalCompositeOperation = how
    laySoft(context, light, over, { x: 0, y: 0 })
    context.globalCompositeOperation = 'source-over'
    context.globalAlpha = 1
  }
  lay(DYE * strength, 'multiply')
  lay(strength, 'screen')
}
