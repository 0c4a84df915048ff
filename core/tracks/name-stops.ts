/** A stop of a track that may have a name, what is near it, and when it was reached. */
interface Unnamed {
  /** Empty where nothing is marked. */
  name: string
  /** In seconds since 1970; null where it is not known. */
  time: number | null
  /** The place of the list that is there, if there is one. */
  near: string | undefined
  /** The IANA name of its time zone; undefined where no place is near enough to tell. */
  zone: string | undefined
}

/** A name for a stop, and whether the list of places gave it. */
interface Named {
  name: string
  found: boolean
}

/**
 * Names for the stops of a track: what is marked there, else the place that is near, else "Start" and "End", and for a rest between them the time. The start
 * and the end have the first right to a place's name, which no two stops have.
 */
export function nameStops(stops: readonly Unnamed[]): Named[] {
  const last = stops.length - 1
  const named: (Named | undefined)[] = stops.map(({ name }) => (name === '' ? undefined : { name, found: false }))
  const isTaken = (name: string) => named.some((each) => each?.name === name)
  for (const i of [0, last, ...stops.keys()]) {
    const { near } = stops[i]!
    if (!named[i] && near !== undefined && !isTaken(near)) named[i] = { name: near, found: true }
  }
  return stops.map(({ time, zone }, i) => {
    const plain = i === 0 ? 'Start' : i === last ? 'End' : time === null ? 'Rest' : `Rest, ${clockOf(time, zone)}`
    return (named[i] ??= { name: unlike(plain, isTaken), found: false })
  })
}

/** A name as it is, or with a number where another stop has it. */
function unlike(name: string, isTaken: (name: string) => boolean): string {
  if (!isTaken(name)) return name
  let number = 2
  while (isTaken(`${name} (${number})`)) number++
  return `${name} (${number})`
}

/** The time of day on the clocks of a zone; in UTC, and said so, where the zone is not known. */
function clockOf(time: number, zone: string | undefined): string {
  const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone ?? 'UTC' }).format(time * 1000)
  return zone === undefined ? `${clock} UTC` : clock
}
