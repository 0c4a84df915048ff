export const now = () => performance.now()
export const line = (what: string, value: string, target = '') => console.log(`${what.padEnd(44)} ${value.padStart(12)}   ${target}`)
export const rate = (frames: number, ms: number) => `${((frames * 1000) / ms).toFixed(1)} fps`
export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!
