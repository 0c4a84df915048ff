/** The commands that work on journeys, maps, tracks and places: `npm run render -- ...`, and so on. */
import type { Command } from './command'
import { runCommand } from './command'
import { follow } from './follow'
import { places } from './places'
import { render } from './render'
import { sheet } from './sheet'
import { track } from './track'
import { words } from './words'

const COMMANDS: Readonly<Record<string, Command<unknown>>> = { follow, places, render, sheet, track, words }

const [name, ...args] = process.argv.slice(2)
const command = COMMANDS[name ?? '']
if (!command) throw new Error(`There is no command ${name}: give one of ${Object.keys(COMMANDS).join(', ')}.`)
process.exitCode = await runCommand(command, args, {
  result: (text) => void process.stdout.write(text),
  complain: (text) => void process.stderr.write(`${text}\n`),
})
