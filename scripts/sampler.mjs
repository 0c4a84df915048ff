// Compiles the sampler of the ground (sampler/, AssemblyScript) to WebAssembly, as a module that browser and server import alike.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

export const SAMPLER_SOURCES = [
  'sampler/index.ts',
  'sampler/mix.ts',
  'sampler/grade.ts',
  'sampler/blur.ts',
  'sampler/exposure.ts',
  'sampler/texture.ts',
  'sampler/yuv.ts',
]
const MADE = 'draw/ground/sampler-code.ts'
const OPTIONS = ['-O3', '--noAssert', '--enable', 'simd,bulk-memory', '--runtime', 'minimal']

/**
 * Makes `draw/ground/sampler-code.ts`, unless it is that of the sources.
 * @param {string} root Zephyrine's folder
 */
export function compileSampler(root = process.cwd()) {
  const hash = createHash('sha256').update(OPTIONS.join())
  for (const source of SAMPLER_SOURCES) hash.update(readFileSync(join(root, source)))
  const of = hash.digest('hex')
  const path = join(root, MADE)
  if (existsSync(path) && readFileSync(path, 'utf8').includes(of)) return
  const folder = join(root, 'node_modules/.cache/zephyrine')
  mkdirSync(folder, { recursive: true })
  const wasm = join(folder, `sampler-${process.pid}.wasm`)
  const compiler = join(root, 'node_modules/assemblyscript/bin/asc.js')
  const { status, stdout, stderr } = spawnSync(process.execPath, [compiler, SAMPLER_SOURCES[0], '-o', wasm, ...OPTIONS], {
    cwd: root,
    encoding: 'utf8',
  })
  if (status !== 0) throw new Error(`The sampler could not be compiled:\n${stdout}${stderr}`)
  const code = readFileSync(wasm).toString('base64')
  rmSync(wasm)
  // Other processes see the old one or the new one, never a part of it.
  writeFileSync(`${path}.${process.pid}`, `// Made by scripts/sampler.mjs of sources ${of}.\nexport const SAMPLER_CODE = '${code}'\n`)
  renameSync(`${path}.${process.pid}`, path)
}
