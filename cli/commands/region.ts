import { regionSchema } from '#core/journey/sheet-schema'
import type { Region } from '#core/journey/schema'
import { UsageError } from '../command'

/** Arguments of which the values of an option may begin with a minus, as those west of Greenwich do: alone it would be parsed as an option itself. */
export const joined = (args: readonly string[], option: string): string[] =>
  args.flatMap((word, i) =>
    i > 0 && args[i - 1] === option ? [] : word === option && args[i + 1] !== undefined ? [`${option}=${args[i + 1]}`] : [word],
  )

/** The region that is written as west, south, east and north. @throws UsageError */
export function regionIn(text: string): Region {
  const [west, south, east, north, ...more] = text.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)))
  const { success, data } = regionSchema.safeParse({ west, south, east, north })
  if (!success || more.length > 0)
    throw new UsageError(`--region should be west, south, east and north in degrees, like 84,-39,85.8,-38.3, not “${text}”.`)
  return data
}
