import { SAMPLER_CODE } from './ground/sampler-code'

/** The functions of the module in `sampler/`, where they are described. Places in its memory are numbers. */
export interface ModuleCode {
  memory: WebAssembly.Memory
  TILE_BYTES: WebAssembly.Global
  TILE_STRIDE: WebAssembly.Global
  allocate(bytes: number): number
  release(block: number): void
  clear(pixels: number, count: number): void
  sample(
    target: number,
    width: number,
    left: number,
    top: number,
    right: number,
    bottom: number,
    rows: number,
    tiles: number,
    columns: number,
    levelLeft: number,
    levelTop: number,
    levelRight: number,
    levelBottom: number,
    mirrored: number,
  ): void
  halve(pixels: number, width: number, height: number, half: number): void
  premultiply(pixels: number, count: number): void
  lay(pixels: number, picture: number, count: number): void
  straighten(pixels: number, count: number): number
  fillSquares(
    pixels: number,
    width: number,
    height: number,
    squares: number,
    count: number,
    levelTable: number,
    levelTotal: number,
    goesOn: number,
    side: number,
  ): void
  takeAlpha(rgba: number, width: number, height: number, plane: number, stride: number): void
  blurRows(
    plane: number,
    stride: number,
    out: number,
    outStride: number,
    width: number,
    height: number,
    weights: number,
    count: number,
  ): void
  blurColumns(
    plane: number,
    stride: number,
    sum: number,
    sumStride: number,
    width: number,
    height: number,
    weights: number,
    count: number,
  ): void
  paintAlpha(plane: number, stride: number, width: number, height: number, colour: number, rgba: number): void
  expose(
    pixels: number,
    width: number,
    left: number,
    top: number,
    right: number,
    bottom: number,
    sums: number,
    times: number,
    isFirst: number,
  ): void
  develop(sums: number, width: number, left: number, top: number, right: number, bottom: number, count: number, out: number): void
  grade(
    from: number,
    to: number,
    width: number,
    left: number,
    top: number,
    right: number,
    bottom: number,
    table: number,
    size: number,
  ): void
  dim(pixels: number, width: number, left: number, top: number, right: number, bottom: number, lights: number): void
  fillNoise(lattice: number, columns: number, rows: number, seed: number): void
  grain(pixels: number, width: number, height: number, lattice: number, columns: number, line: number, step: number, depth: number): void
  toYuv(rgba: number, width: number, y: number, cb: number, cr: number, left: number, top: number, right: number, bottom: number): void
}

let compiled: WebAssembly.Module | undefined

/** The module with a memory of its own. @throws Error from its functions where there is not enough memory */
export function startModule(): ModuleCode {
  compiled ??= new WebAssembly.Module(Uint8Array.from(atob(SAMPLER_CODE), (letter) => letter.charCodeAt(0)))
  const abort = () => {
    throw new Error('There is not enough memory to paint.')
  }
  return new WebAssembly.Instance(compiled, { env: { abort } }).exports as unknown as ModuleCode
}
