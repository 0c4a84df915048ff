import { JourneyError } from '#core/journey/error'

/** Something wrong with how a command was called; the message is one sentence. */
export class UsageError extends Error {}

/** Runs a command. A wrong call or file gets a one-sentence message and exit code 2; anything else is a fault of ours, with 1. */
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
