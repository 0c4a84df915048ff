import { JourneyError } from '#core/error'
import { backUp, restore } from '../../server/storage/backup'
import { dataFolder } from '../../server/storage/database'
import { FolderInUse } from '../../server/storage/folder-lock'
import type { Output } from '../command'
import type { BackupOptions } from './backup-options'

/** Makes or restores a backup, and prints a line of JSON. */
export async function runBackup(options: BackupOptions, output: Output): Promise<void> {
  const folder = dataFolder()
  try {
    const done = 'out' in options ? await backUp(folder, options.out) : await restore(options.from, folder)
    output.result(`${JSON.stringify({ ...done, folder: 'out' in options ? options.out : folder })}\n`)
  } catch (error) {
    throw error instanceof FolderInUse ? new JourneyError(error.message) : error
  }
}
