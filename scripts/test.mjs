// `npm test`: installs what is missing, checks format, lint and types, and runs all tests. `npm test -- --project core` runs a part of them.
import { readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { buildApplication, installChromium, installPackages, prepareTypes, run } from './steps.mjs'

const chosen = process.argv.slice(2)
installPackages()
installChromium()
prepareTypes()
buildApplication()

const checks = chosen.length
  ? []
  : [
      ['prettier', '--check', '--log-level=warn', '.'],
      ['eslint', '.', '--max-warnings=0'],
      ['vue-tsc', '--noEmit', '-p', '.nuxt/tsconfig.app.json'],
      ['vue-tsc', '--noEmit', '-p', '.nuxt/tsconfig.server.json'],
      ['tsc', '-p', 'tsconfig.core.json'],
      ['tsc', '-p', 'tsconfig.tools.json'],
    ]
/** What failed, named again after all that is printed before: a reader of the end of a long log wants to know. */
const amiss = []
let failed = 0
for (const check of checks) {
  console.log(`> ${check.join(' ')}`)
  if (run('npx', ['--no-install', ...check]) !== 0) {
    failed++
    amiss.push(check.join(' '))
  }
}

let passed = checks.length - failed
// The browser tests run alone: they wait for the screen, and films rendered at the same time would slow them down.
const runs = chosen.length
  ? [chosen]
  : [
      ['--project', 'core', '--project', 'app', '--project', 'server'],
      ['--project', 'browser'],
    ]
for (const options of runs) {
  const report = join(tmpdir(), `zephyrine-tests-${process.pid}.json`)
  const status = run('npx', [
    '--no-install',
    'vitest',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
    ...options,
  ])
  const before = failed
  try {
    const result = JSON.parse(readFileSync(report, 'utf8'))
    passed += result.numPassedTests
    failed += result.numFailedTests
    for (const { name, assertionResults } of result.testResults)
      for (const { status, fullName, failureMessages } of assertionResults)
        if (status === 'failed') amiss.push(`${relative('.', name)} > ${fullName}\n${failureMessages.join('\n')}`)
  } catch {
    failed++
    amiss.push(`vitest ${options.join(' ')} (no report)`)
  }
  if (status !== 0 && failed === before) {
    failed++
    amiss.push(`vitest ${options.join(' ')} (exit code ${status}, though no test failed)`)
  }
  rmSync(report, { force: true })
}
for (const what of amiss) console.log(`\nFAILED ${what}`)
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
