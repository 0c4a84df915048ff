import { JourneyError } from '#core/error'

/** A command was called wrongly; the message is one sentence. */
export class UsageError extends Error {}

/** Where a command writes: results and complaints, each as whole lines. */
export interface Output {
  result(text: string): void
  complain(text: string): void
}

/** How a command is called. */
export interface CommandOptions<Options> {
  usage: string
  /** @param args what stands behind the command's name @throws UsageError */
  read(args: readonly string[]): Options
}

/** A command of the project. Its options are read before what does the work is loaded, so that a mistyped one is refused at once. */
export interface Command<Options> extends CommandOptions<Options> {
  /** @returns the exit code, 0 if left out @throws UsageError or JourneyError with one sentence */
  run(options: Options, output: Output): Promise<number | void>
}

/** Exit codes: a wrong call or a file that cannot be used, and an error of our own. */
const REFUSED = 2
const BROKEN = 1

/** Runs a command. @returns its exit code */
export async function runCommand<Options>(command: Command<Options>, args: readonly string[], output: Output): Promise<number> {
  try {
    return (await command.run(command.read(args), output)) ?? 0
  } catch (error) {
    output.complain(error instanceof Error ? error.message : String(error))
    if (!(error instanceof UsageError || error instanceof JourneyError)) return BROKEN
    if (args.length === 0) output.complain(command.usage)
    return REFUSED
  }
}

/** The error of parseArgs as one sentence. */
export const parseFault = (error: unknown): UsageError => new UsageError((error as Error).message.split('. ')[0]!.replace(/\.?$/, '.'))
