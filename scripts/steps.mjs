// Shared by `npm run demo` and `npm test`: installing and building what is missing. Plain Node, as nothing else may be installed yet.
import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { programPath } from './bundles.mjs'
import { compileSampler } from './sampler.mjs'

const root = fileURLToPath(new URL('..', import.meta.url))
process.chdir(root)

export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, {
    stdio: 'inherit',
    env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1' },
    ...options,
  })
  if (error) throw error
  return status ?? 1
}

function mustRun(command, args, what) {
  if (run(command, args) !== 0) {
    console.error(`${what} failed.`)
    process.exit(1)
  }
}

const modified = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0)

function newestIn(path) {
  if (!existsSync(path)) return 0
  if (!statSync(path).isDirectory()) return modified(path)
  return readdirSync(path).reduce((newest, name) => Math.max(newest, newestIn(join(path, name))), 0)
}

/** Installs the packages when they are missing or older than the lock file. */
export function installPackages() {
  if (modified('node_modules/.package-lock.json') >= modified('package-lock.json')) return
  console.log('Installing packages (where better-sqlite3 has to be compiled this takes some minutes) ...')
  mustRun('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], 'npm ci')
}

/** Builds the application and the bundles of what runs beside it, each when a source is newer than its last build. */
export function buildApplication() {
  programPath('main')
  const sources = ['app', 'core', 'draw', 'sampler', 'server', 'public', 'nuxt.config.ts', 'package-lock.json']
  if (modified('.output/nitro.json') > Math.max(...sources.map(newestIn))) return
  console.log('Building ...')
  mustRun('npx', ['--no-install', 'nuxt', 'build'], 'The build')
}

/** Makes what the type check and the tests need beside the sources. */
export function prepareTypes() {
  compileSampler(root)
  if (!existsSync('.nuxt/tsconfig.app.json')) mustRun('npx', ['--no-install', 'nuxt', 'prepare'], 'nuxt prepare')
}

const CHROMIUM = '/usr/bin/chromium'

/** Installs Debian's Chromium when it is missing. */
export function installChromium() {
  if (existsSync(CHROMIUM)) return
  console.log('Installing Chromium ...')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args]
    execFileSync(command, rest, { stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  }
  apt('update', '-qq')
  apt('install', '-y', '-qq', '--no-install-recommends', 'chromium')
}
