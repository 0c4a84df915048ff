/** The nearest of some times, if it is within reach of a time, else that time itself. All in seconds. */
export function snapTime(time: number, targets: readonly number[], reach: number): number {
  let [found, least] = [time, reach]
  for (const target of targets) {
    const off = Math.abs(target - time)
    if (off <= least) [found, least] = [target, off]
  }
  return found
}
