/** `npm run render -- ...` and the like: runs the command that is named first. */
import type { Command } from './command'
import { runCommand } from './command'
import * as commands from './commands'

const [name = '', ...args] = process.argv.slice(2)
const command = (commands as Readonly<Record<string, Command<unknown> | undefined>>)[name]
if (!command) throw new Error(`There is no command ${name}: give one of ${Object.keys(commands).join(', ')}.`)
process.exitCode = await runCommand(command, args, {
  result: (text) => void process.stdout.write(text),
  complain: (text) => void process.stderr.write(`${text}\n`),
})
