import { parseArgs } from 'node:util'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

/** A backup that is made, or one that is restored, by its folder. */
export type BackupOptions = { out: string } | { from: string }

function read(args: readonly string[]): BackupOptions {
  let values
  try {
    values = parseArgs({ args: [...args], options: { out: { type: 'string' }, restore: { type: 'string' } } }).values
  } catch (error) {
    throw parseFault(error)
  }
  const { out, restore } = values
  if ((out === undefined) === (restore === undefined))
    throw new UsageError('Give --out with the folder of the backup, or --restore with that of an earlier one.')
  return out === undefined ? { from: restore! } : { out }
}

/** Copies all data, or brings it back. */
export const backupOptions: CommandOptions<BackupOptions> = {
  usage: `npm run backup -- --out DIR | --restore DIR

  Copies all of the data folder, also while Zephyrine runs; a folder with an earlier backup is brought up to date. With --restore it is copied back into a data
  folder without journeys. A backup is a data folder itself: ZEPHYRINE_DATA=DIR works on it. Keys of tile services are not in it.`,
  read,
}
