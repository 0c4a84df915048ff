import { legCourse } from './courses'
import type { Journey, Network, NetworkMode } from '../../journey/schema'
import { writePoints } from '../../journey/track-line'
import { MODE_NAMES, USUAL_SPEED } from '../../network/modes'

/** Changes to the networks that legs are led over: pure functions, journey in, journey out. */

/** Adds lines to the networks of a journey, as one network for each mode; `ids` has one for each. */
export function addNetworks(
  journey: Journey,
  name: string,
  lines: Partial<Record<NetworkMode, Network['lines']>>,
  ids: Record<NetworkMode, string>,
): Journey {
  const added = (Object.keys(lines) as NetworkMode[]).map((mode): Network => ({
    id: ids[mode],
    name: name.slice(0, 120),
    mode,
    lines: lines[mode]!,
  }))
  return { ...journey, networks: [...journey.networks, ...added] }
}

/** Adds the course of a leg as a line to the first network of a mode, or to a new one. */
export function keepAsLine(journey: Journey, leg: string, mode: NetworkMode, id: string): Journey {
  const course = legCourse(journey, leg)
  if (!course) return journey
  const line = { points: writePoints(course.points), speed: USUAL_SPEED[mode] }
  const network = journey.networks.find((other) => other.mode === mode) ?? { id, name: `${MODE_NAMES[mode]}, drawn`, mode, lines: [] }
  const grown = { ...network, lines: [...network.lines, line] }
  const isNew = !journey.networks.includes(network)
  return {
    ...journey,
    networks: isNew ? [...journey.networks, grown] : journey.networks.map((other) => (other === network ? grown : other)),
  }
}

/** Removes a network; legs over it go straight where no other network of its mode leads. */
export const removeNetwork = (journey: Journey, id: string): Journey => ({
  ...journey,
  networks: journey.networks.filter((network) => network.id !== id),
})
