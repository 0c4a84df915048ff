/** How the camera films by itself, as long as nobody has set a shot: see core/shots/shot-plan.ts. */
export const TEMPERAMENTS = ['calm', 'lively', 'steady'] as const
export type Temperament = (typeof TEMPERAMENTS)[number]
