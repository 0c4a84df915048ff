export const SAMPLER_SOURCE: string
export function compileSampler(root?: string): void
