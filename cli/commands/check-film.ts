import { allFindings } from '#core/checks/check-film'
import { checkCamera, toldCheck } from '#core/checks/camera-check'
import { keyOf } from '#core/checks/finding'
import { compile } from '#core/frame/compile'
import { crowdedLabels, labelCosts, placeLabels } from '#core/labels/label-solver'
import { labelScene, NO_PLACES, placesOf } from '#core/labels/label-scene'
import { markedOf } from '#core/journey/lookup'
import type { Output } from '../command'
import type { CheckOptions } from './check-options'
import { findJourney } from './find-journey'

/** The exit code where something is found. */
const FOUND = 3

/** What is printed of a finding: which check it is of, a sentence, and the moment to look at, in seconds, if there is one. */
interface Told {
  check: string
  text: string
  at: number | null
}

/** Prints the findings, those that were accepted left out. @returns the exit code */
export async function checkFilm({ journey: name, format }: CheckOptions, output: Output): Promise<number> {
  const { journey } = await findJourney(name)
  const scene = labelScene(compile(journey, NO_PLACES))
  const costs = scene && labelCosts(scene)
  const chosen = scene && placeLabels(scene, costs)
  const compiled = compile(journey, scene && chosen ? placesOf(scene, chosen) : NO_PLACES)
  const crowded = new Set(scene && chosen && costs ? crowdedLabels(scene, chosen, costs) : [])
  const findings = allFindings(compiled).filter((finding) => !journey.accepted.includes(keyOf(finding)))
  const mapWidth = journey.sheets[0]?.width
  const told: Told[] = [
    ...checkCamera(compiled).map((check) => ({ check: check.kind, text: toldCheck(check, mapWidth), at: check.worstAt })),
    ...markedOf(journey)
      .filter(({ id }) => crowded.has(id))
      .map(({ name: of }) => ({ check: 'overlap', text: `The name “${of}” overlaps something at times.`, at: null })),
    ...findings.map(({ check, text, at }) => ({ check, text, at })),
  ].sort((a, b) => (a.at ?? -1) - (b.at ?? -1))
  if (format === 'json') output.result(`${JSON.stringify(told, null, 2)}\n`)
  else for (const { text, at } of told) output.result(`${at === null ? '' : `${at.toFixed(1)} s  `}${text}\n`)
  return told.length > 0 ? FOUND : 0
}
