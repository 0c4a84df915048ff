/**
 * Long lines are kept in the journey as text, as they are in SVG: "x,y x,y …", and times as "0 12 13.5 …". That is a fraction of what lists of numbers
 * take, and checked in one go.
 */

/** What such texts must look like. */
export const POINTS_PATTERN = /^-?\d{1,8}(\.\d{1,3})?,-?\d{1,8}(\.\d{1,3})?( -?\d{1,8}(\.\d{1,3})?,-?\d{1,8}(\.\d{1,3})?)+$/
export const TIMES_PATTERN = /^\d{1,10}(\.\d{1,3})?( \d{1,10}(\.\d{1,3})?)+$/

export const HEIGHTS_PATTERN = /^-?\d{1,5}(\.\d)?( -?\d{1,5}(\.\d)?)+$/

/** How many points or times a text holds. */
export function countIn(text: string): number {
  let count = 1
  for (let i = text.indexOf(' '); i !== -1; i = text.indexOf(' ', i + 1)) count++
  return count
}

const rounded = (value: number, decimals: number): string => String(Number(value.toFixed(decimals)))

/** Points, x and y in turn, to the hundredth of a ground unit. */
export function writePoints(points: ArrayLike<number>): string {
  const words: string[] = []
  for (let i = 0; i + 1 < points.length; i += 2) words.push(`${rounded(points[i]!, 2)},${rounded(points[i + 1]!, 2)}`)
  return words.join(' ')
}

/** The points of a text, x and y in turn. */
export function readPoints(text: string): Float64Array {
  const points = new Float64Array(2 * countIn(text))
  let at = 0
  for (const pair of text.split(' ')) {
    const comma = pair.indexOf(',')
    points[at++] = Number(pair.slice(0, comma))
    points[at++] = Number(pair.slice(comma + 1))
  }
  return points
}

/** Times in seconds, to the tenth; they begin at 0. */
export function writeTimes(times: ArrayLike<number>): string {
  return Array.from(times, (time) => rounded(time - times[0]!, 1)).join(' ')
}

/** The times of a text, in seconds. */
export const readTimes = (text: string): Float64Array => Float64Array.from(text.split(' '), Number)

/** Whether no time of a text is before the one that it follows. */
export const isRising = (text: string): boolean => readTimes(text).every((time, i, all) => i === 0 || time >= all[i - 1]!)

/** Heights in metres, to the tenth. */
export const writeHeights = (heights: ArrayLike<number>): string => Array.from(heights, (height) => rounded(height, 1)).join(' ')

/** The heights of a text, in metres. */
export const readHeights = (text: string): Float64Array => Float64Array.from(text.split(' '), Number)
