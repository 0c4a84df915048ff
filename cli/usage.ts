import { JourneyError } from '#core/error'

/** A command was called wrongly; the message is one sentence. */
export class UsageError extends Error {}

/** Runs a command. Wrong calls and files give a one-sentence message and exit code 2; internal errors exit with 1. */
export async function runCommand(usage: string, main: () => Promise<void>): Promise<void> {
  try {
    await main()
  } catch (error) {
    if (error instanceof UsageError || error instanceof JourneyError) {
      console.error(error.message)
      if (process.argv.length <= 2) console.error(usage)
      process.exit(2)
    }
    console.error(error instanceof Error ? error.message : String(error))
    process.exit(1)
  }
}

/** The error of parseArgs as one sentence. */
export const parseFault = (error: unknown): UsageError => new UsageError((error as Error).message.split('. ')[0]!.replace(/\.?$/, '.'))
