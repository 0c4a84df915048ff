/** The built application in headless Chromium: opening, scrubbing, dragging. */
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { viewAt } from '#core/camera/view-track'
import { setPlan } from '#core/edits/camera/shots'
import { compile } from '#core/frame/compile'
import type { Journey } from '#core/journey/schema'
import { stillDemo } from '#demo/journey'
import { line, now, rate } from './measure'
import { longWalk, manyLines, threeTrips } from './trips'

const SMOOTH = 'target: at least 30 fps'

const SMOOTH_TILTED = 'target: at least 24 fps'

/** Scrubs through the journey that is open, once; frames a second. */
async function scrub(page: Page): Promise<string> {
  const steps = 150
  const ms = await page.evaluate(async (count) => {
    const strip = document.querySelector('[data-testid="pace-strip"] svg.ruler')!
    const box = strip.getBoundingClientRect()
    const fire = (type: string, x: number, target: EventTarget) =>
      target.dispatchEvent(new PointerEvent(type, { bubbles: true, button: 0, pointerId: 1, clientX: x, clientY: box.top + 10 }))
    const frame = () => new Promise(requestAnimationFrame)
    fire('pointerdown', box.left + 30, strip)
    const begin = performance.now()
    for (let i = 0; i < count; i++) {
      fire('pointermove', box.left + 30 + ((box.width - 60) * i) / count, window)
      await frame()
    }
    const took = performance.now() - begin
    fire('pointerup', box.left, window)
    return took
  }, steps)
  return rate(steps, ms)
}

/** A recorded track of a million points, imported from its file with its summary, and scrubbed at the default tolerance. */
async function measureTrack(page: Page, folder: string): Promise<void> {
  const path = join(folder, 'walk.gpx')
  writeFileSync(path, longWalk(1_000_000))
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('open-track').click()])
  const chosen = now()
  await chooser.setFiles(path)
  await page.getByTestId('track-facts').waitFor({ timeout: 60_000 })
  line('a track of a million points, read', `${((now() - chosen) / 1000).toFixed(2)} s`, 'target: under 5 s')
  await page.getByTestId('lay-track').click()
  await page.getByTestId('traveller').nth(1).waitFor({ timeout: 60_000 })
  line('scrubbing with it on the stage', await scrub(page), SMOOTH)
}

/** Stores a journey. @returns its id */
async function store(address: string, journey: Journey): Promise<string> {
  const response = await fetch(`${address}/api/journeys`, {
    method: 'POST',
    headers: { 'x-zephyrine': 'bench' },
    body: JSON.stringify({ journey }),
  })
  return ((await response.json()) as { id: string }).id
}

/** Waits until no poster is being painted, which keeps a processor busy. */
async function postersAreMade(address: string): Promise<void> {
  for (;;) {
    const journeys = (await (await fetch(`${address}/api/journeys`)).json()) as { posterIsComing: boolean }[]
    if (!journeys.some((journey) => journey.posterIsComing)) return
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
}

/** One step of dragging a stop, from the pointer event until the page is up to date: the median of 60, in milliseconds. */
async function measureDrag(page: Page, address: string, what: string, journey: Journey, target: string): Promise<void> {
  const id = await store(address, journey)
  await postersAreMade(address)
  await page.goto(`${address}/journeys/${id}`)
  await page.getByTestId('stop-handle').first().waitFor()
  await page.waitForTimeout(1500)
  const ms = await page.evaluate(async () => {
    const handle = document.querySelector('[data-testid="stop-handle"]')!
    const box = handle.getBoundingClientRect()
    const fire = (type: string, by: number, on: EventTarget) =>
      on.dispatchEvent(
        new PointerEvent(type, { bubbles: true, button: 0, pointerId: 1, clientX: box.left + 15 + by, clientY: box.top + 15 + by / 3 }),
      )
    fire('pointerdown', 0, handle)
    const took: number[] = []
    for (let i = 1; i <= 60; i++) {
      const start = performance.now()
      fire('pointermove', i, window)
      // The update runs in microtasks, so it is done by the next task.
      await new Promise((resolve) => setTimeout(resolve))
      took.push(performance.now() - start)
      await new Promise(requestAnimationFrame)
    }
    fire('pointerup', 60, window)
    return took.sort((a, b) => a - b)[30]!
  })
  line(`a step of dragging a stop, ${what}`, `${ms.toFixed(1)} ms`, target)
}

async function measureDrags(page: Page, address: string, demo: Journey): Promise<void> {
  const [traveller, ...others] = demo.travellers
  const led = traveller!.legs.map((leg): Journey['travellers'][number]['legs'][number] => ({
    ...leg,
    course: { kind: 'network', mode: 'road', by: 'time', vias: [] },
  }))
  const network = { ...demo, networks: manyLines(), travellers: [{ ...traveller!, legs: led }, ...others] }
  await measureDrag(page, address, 'a network of 21 000 points', network, 'target: at most 16 ms')
  const points = Array.from(
    { length: 100_000 },
    (_, i) => `${400 + (i * 5000) / 1e5},${(1500 + 900 * Math.sin(i / 4000) + (i % 7) / 10).toFixed(2)}`,
  )
  const recorded = traveller!.legs.map((leg, i) =>
    i === 0 ? { ...leg, course: { kind: 'track' as const, points: points.join(' '), times: null, began: null, heights: null } } : leg,
  )
  const track = { ...demo, travellers: [{ ...traveller!, legs: recorded }, ...others] }
  await measureDrag(page, address, 'a track of 100 000 points', track, 'target: at most 40 ms')
}

/** Drags the end of a leg on the pace strip with three travellers of a hundred stops, all shown; frames a second. */
async function measureStrip(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/journeys/${await store(address, threeTrips())}`)
  await page.getByTestId('strip-travellers').waitFor()
  await postersAreMade(address)
  await page.getByTestId('strip-travellers').click()
  // So many stops are drawn in a few lines, but for what is selected.
  await page.getByRole('button', { name: 'Leg 4', exact: true }).click()
  await page.waitForTimeout(1500)
  const steps = 90
  const ms = await page.evaluate(async (count) => {
    const handle = document.querySelector('[data-testid="ribbon-end-3"]')!
    const box = handle.getBoundingClientRect()
    const fire = (type: string, by: number, on: EventTarget) =>
      on.dispatchEvent(
        new PointerEvent(type, { bubbles: true, button: 0, pointerId: 1, clientX: box.left + 12 + by, clientY: box.top + 12 }),
      )
    fire('pointerdown', 0, handle)
    const begin = performance.now()
    for (let i = 1; i <= count; i++) {
      fire('pointermove', i, window)
      await new Promise(requestAnimationFrame)
    }
    const took = performance.now() - begin
    fire('pointerup', count, window)
    return took
  }, steps)
  line('dragging on the strip, 3 trips of 100 stops', rate(steps, ms), SMOOTH)
}

/** Opening and scrubbing the demo in the built application, and what takes long in it. */
export async function measurePreview(): Promise<void> {
  const { chromium } = await import('playwright-core')
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  const env = { ...process.env, ZEPHYRINE_DATA: folder, NITRO_PORT: '3977', NODE_ENV: 'production' }
  execFileSync(process.execPath, ['scripts/run.mjs', 'seed'], { env })
  const server = spawn(process.execPath, ['.output/server/index.mjs'], { env, stdio: 'ignore' })
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  })
  try {
    const address = 'http://127.0.0.1:3977'
    while (!(await fetch(address).catch(() => undefined))) await new Promise((resolve) => setTimeout(resolve, 50))
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    // The loader of this script wraps named functions in a helper that the page lacks.
    await context.addInitScript('globalThis.__name = (f) => f')
    const page = await context.newPage()
    const start = now()
    await page.goto(`${address}/journeys/demo`)
    await page.waitForFunction(() => {
      // The sea at the frame's upper left corner: bluer than the ground's colour, which shows before the sheet has loaded.
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="stage-canvas"]')
      const pixel = canvas?.width ? canvas.getContext('2d')!.getImageData(5, 5, 1, 1).data : undefined
      return pixel !== undefined && pixel[3] === 255 && pixel[2]! > pixel[0]! + 20
    })
    line('opening the demo to its first picture', `${((now() - start) / 1000).toFixed(2)} s`, 'target: at most 0.8 s')
    await page.getByTestId('pace-strip').waitFor()
    line('scrubbing in the preview, 960 x 540', await scrub(page), SMOOTH)
    const stored = (await (await fetch(`${address}/api/journeys/demo`)).json()) as { journey: Journey }
    const flight = { ...stored.journey, camera: viewAt(compile(stored.journey), 16), shots: [] }
    await page.goto(`${address}/journeys/${await store(address, flight)}`)
    await page.getByTestId('stop-handle').first().waitFor()
    await page.waitForTimeout(1500)
    line('scrubbing in the preview at pitch 52', await scrub(page), SMOOTH_TILTED)
    await page.goto(`${address}/journeys/${await store(address, setPlan({ ...stored.journey, shots: [] }, 'lively'))}`)
    await page.getByTestId('pace-shot').first().waitFor()
    await page.waitForTimeout(1500)
    line('scrubbing in the preview, a lively plan', await scrub(page), SMOOTH_TILTED)
    await page.goto(`${address}/journeys/${await store(address, stillDemo(stored.journey))}`)
    await page.getByTestId('stop-handle').first().waitFor()
    await page.waitForTimeout(1500)
    await page.getByRole('button', { name: 'Leg 2', exact: true }).click()
    const asked = now()
    await page.keyboard.press('p')
    await page.getByText(/^Found: /).waitFor()
    line('finding a road of 1260 px on a sheet of 6400', `${((now() - asked) / 1000).toFixed(2)} s`, 'target: under 2 s')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    // In a renderer of its own, and before a million points fill the memory of the other.
    const other = await context.newPage()
    await measureDrags(other, address, stillDemo(stored.journey))
    await other.close()
    await measureTrack(page, folder)
    await measureStrip(page, address)
  } finally {
    await browser.close()
    server.kill('SIGKILL')
    rmSync(folder, { recursive: true, force: true })
  }
}
