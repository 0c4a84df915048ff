import { parseArgs } from 'node:util'
import type { CommandOptions } from '../command'
import { parseFault } from '../command'
import { oneOf } from './map-options'

const FORMATS = ['text', 'json'] as const

export interface CheckOptions {
  journey: string
  format: (typeof FORMATS)[number]
}

function read(args: readonly string[]): CheckOptions {
  const text = { type: 'string' } as const
  let values
  try {
    values = parseArgs({ args: [...args], options: { journey: { ...text, default: 'demo' }, format: { ...text, default: 'text' } } }).values
  } catch (error) {
    throw parseFault(error)
  }
  return { journey: values.journey, format: oneOf('--format', values.format, FORMATS) }
}

/** Looks a film through for what would go wrong. */
export const checkOptions: CommandOptions<CheckOptions> = {
  usage: `npm run check -- --journey demo|ID|FILE [--format text|json]

  Prints what would look wrong in the film, a line each: what cannot be read, and what the camera does. Exit code 3 where something is found.`,
  read,
}
