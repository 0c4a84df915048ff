// `npm test`: installs what is missing, checks format, lint and types, and runs all tests. `npm test -- --quick` leaves out what takes long,
// `npm test -- --project core` and the like run a part of the tests alone.
import { spawn } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import { availableParallelism, tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { buildApplication, installChromium, installPackages, prepareTypes, run } from './steps.mjs'

const asked = process.argv.slice(2)
const isQuick = asked.includes('--quick')
const chosen = asked.filter((word) => word !== '--quick')
const began = performance.now()
installPackages()
installChromium()
prepareTypes()
buildApplication()

const CHECKS = [
  ['vue-tsc', '--noEmit', '-p', '.nuxt/tsconfig.app.json'],
  ['eslint', '.', '--max-warnings=0', '--cache', '--cache-location', 'node_modules/.cache/eslint/'],
  ['tsc', '-p', 'tsconfig.tools.json'],
  ['vue-tsc', '--noEmit', '-p', '.nuxt/tsconfig.server.json'],
  ['tsc', '-p', 'tsconfig.core.json'],
  ['tsc', '-p', 'sampler', '--noEmit'],
  ['knip', '--no-progress'],
  ['prettier', '--check', '--log-level=warn', '--cache', '.'],
]
/** What takes long: films, hostile files, whole screens. A first voyage in the browser stays. */
const LONG = [
  'tests/server/{film,film-formats,sound,hostile,full-disk,second-start,import-sheet}.test.ts',
  'tests/browser/!(voyage).test.ts',
]
const PARTS = isQuick ? LONG.flatMap((files) => ['--exclude', files]) : []
/** Browser tests run apart from the others: they wait for the screen, and films rendered at the same time would slow them down. */
const RUNS = chosen.length
  ? [[...chosen, ...PARTS]]
  : [
      ['--project', 'core', '--project', 'app', '--project', 'server', ...PARTS],
      ['--project', 'browser', ...PARTS],
    ]
const MOST_SLOW = 10

/** What failed, named again after all that is printed before: a reader of the end of a long log wants to know. */
const failures = []
/** Tests that left themselves out, as this machine lacks something. */
const left = []
let [passed, failed, skipped] = [0, 0, 0]
/** @type {{ name: string; seconds: number }[]} */
const times = []

/** Runs a check, and prints what it says once it is done, as several run at the same time. */
async function check(command) {
  const start = performance.now()
  const child = spawn('npx', ['--no-install', ...command], { stdio: ['ignore', 'pipe', 'pipe'] })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.setEncoding('utf8').on('data', (text) => (said += text))
  const code = await new Promise((resolve) => child.on('close', resolve))
  console.log(`> ${command.join(' ')} (${((performance.now() - start) / 1000).toFixed(0)} s)`)
  if (code === 0) return void passed++
  console.log(said)
  failed++
  failures.push(command.join(' '))
}

async function runChecks() {
  const waiting = [...CHECKS]
  const worker = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await check(next)
  }
  await Promise.all(Array.from({ length: Math.min(2, availableParallelism()) }, worker))
}

function runTests(options) {
  const report = join(tmpdir(), `zephyrine-tests-${process.pid}.json`)
  const reporters = ['default', 'json', './tests/support/progress.ts'].map((name) => `--reporter=${name}`)
  const status = run('npx', ['--no-install', 'vitest', 'run', ...reporters, `--outputFile.json=${report}`, ...options])
  const before = failed
  try {
    const result = JSON.parse(readFileSync(report, 'utf8'))
    passed += result.numPassedTests
    failed += result.numFailedTests
    skipped += result.numPendingTests
    for (const { name, assertionResults } of result.testResults)
      for (const { status, fullName, failureMessages, duration } of assertionResults) {
        const test = `${relative('.', name)} > ${fullName}`
        times.push({ name: test, seconds: (duration ?? 0) / 1000 })
        if (status === 'failed') failures.push(`${test}\n${failureMessages.join('\n')}`)
        if (chosen.length === 0 && (status === 'pending' || status === 'skipped')) left.push(test)
      }
  } catch {
    failed++
    failures.push(`vitest ${options.join(' ')} (no report)`)
  }
  if (status !== 0 && failed === before) {
    failed++
    failures.push(`vitest ${options.join(' ')} (exit code ${status}, though no test failed)`)
  }
  rmSync(report, { force: true })
}

if (chosen.length === 0) await runChecks()
for (const options of RUNS) runTests(options)

console.log('\nThe slowest tests:')
for (const { name, seconds } of times.sort((a, b) => b.seconds - a.seconds).slice(0, MOST_SLOW))
  console.log(`${seconds.toFixed(1).padStart(6)} s  ${name}`)
for (const test of left) console.log(`\nSKIPPED ${test}`)
for (const what of failures) console.log(`\nFAILED ${what}`)
console.log(`\nIn ${Math.round((performance.now() - began) / 1000)} s:`)
console.log(`${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ''}`)
process.exit(failed === 0 ? 0 : 1)
