/** Drawing courses with the mouse in a real browser. Each test begins with a fresh copy of the demo. */
import { downloadedText } from '../support/browser'
import type { Page } from 'playwright-core'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Point } from '#core/geometry/point'
import { nearestOnChain } from '#core/geometry/nearest'
import { legCubics, sharpCorners } from '#core/edits/lines/courses'
import { createJourney } from '#core/journey/create'
import type { DrawnCourse } from '#core/journey/schema'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()
const { stored } = demo
let page: Page
beforeEach(() => {
  page = demo.page
})

const leg = async (name: string) => (await stored()).travellers[0]!.legs.find((entry) => entry.id === name)!
const drawn = async (name: string) => (await leg(name)).course as DrawnCourse

/** Ground units to the CSS pixel while the demo fills the frame. */
const GU = 6400 / 960
const stage = async () => (await page.getByTestId('stage').boundingBox())!
async function click(x: number, y: number) {
  const box = await stage()
  await page.mouse.click(box.x + x, box.y + y)
}
async function drag(points: readonly (readonly [number, number])[], key?: 'Shift' | 'Control') {
  const box = await stage()
  if (key) await page.keyboard.down(key)
  await page.mouse.move(box.x + points[0]![0], box.y + points[0]![1])
  await page.mouse.down()
  for (const [x, y] of points.slice(1)) await page.mouse.move(box.x + x, box.y + y)
  await page.mouse.up()
  if (key) await page.keyboard.up(key)
}
async function dragElement(testId: string, nth: number, by: [number, number]) {
  const box = (await page.getByTestId(testId).nth(nth).boundingBox())!
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + by[0] / 2, y + by[1] / 2)
  await page.mouse.move(x + by[0], y + by[1], { steps: 4 })
  await page.mouse.up()
}
const near = (a: Point, x: number, y: number, by = 8) => Math.hypot(a.x - x * GU, a.y - y * GU) < by

describe('drawing node by node', () => {
  it('draws a leg anew: corners by clicks, a smooth node by a drag, to its second stop', async () => {
    await page.getByTestId('bend-seaplane').click()
    await page.keyboard.press('d')
    await click(560, 420)
    await drag([
      [700, 440],
      [740, 440],
      [780, 440],
    ])
    await click(835.8, 150)
    await page.waitForTimeout(50)
    const course = await drawn('seaplane')
    expect(course.nodes).toHaveLength(2)
    expect(near(course.nodes[0]!.at, 560, 420)).toBe(true)
    expect(course.nodes[0]!.kind).toBe('corner')
    expect(near(course.nodes[1]!.at, 700, 440)).toBe(true)
    expect(course.nodes[1]!.kind).toBe('symmetric')
    expect(course.nodes[1]!.after.x).toBeCloseTo(80 * GU, -1)
    await page.getByRole('button', { name: 'Undo' }).click()
    expect((await leg('seaplane')).course.kind).toBe('bowed')
  })

  it('goes on from the last stop to a new one, takes a node back, and keeps to 15-degree steps with Shift', async () => {
    await page.keyboard.press('d')
    await click(700, 500)
    await click(300, 500)
    await page.keyboard.press('Backspace')
    await page.keyboard.down('Shift')
    await click(500, 508)
    await page.keyboard.up('Shift')
    await page.keyboard.press('Enter')
    const { stops, travellers } = await stored()
    expect(stops).toHaveLength(6)
    expect(near(stops[5]!.at, 500, 500, 12)).toBe(true)
    const course = travellers[0]!.legs.at(-1)!.course as DrawnCourse
    expect(course.nodes).toHaveLength(1)
    expect(near(course.nodes[0]!.at, 700, 500)).toBe(true)
    await page.getByRole('button', { name: 'Undo' }).click()
    expect((await stored()).stops).toHaveLength(5)
  })

  it('begins a trip where there is none, and snaps to what is there unless Ctrl is held', async () => {
    await demo.open(createJourney('Bare'))
    await page.getByTestId('choose-picture').waitFor()
    await page.getByTestId('tool-draw').click()
    await page.getByText('Click where the trip begins.').waitFor()
    await click(200, 100)
    await click(300, 300)
    await click(600, 400)
    await page.keyboard.press('Enter')
    const first = await stored()
    expect(first.stops.map(({ at }) => [Math.round(at.x / 2), Math.round(at.y / 2)])).toEqual([
      [200, 100],
      [600, 400],
    ])
    // Back to where it began: the same stop is visited again.
    await click(204, 103)
    await page.keyboard.press('Enter')
    const back = await stored()
    expect(back.travellers[0]!.visits.map(({ stop }) => stop)).toEqual([0, 1, 0].map((i) => first.stops[i]!.id))
    expect(back.stops).toHaveLength(2)
  })
})

describe('drawing by hand', () => {
  const wave = (from: readonly [number, number], to: readonly [number, number], height: number) =>
    Array.from({ length: 60 }, (_, i) => {
      const u = i / 59
      return [from[0] + (to[0] - from[0]) * u, from[1] + (to[1] - from[1]) * u + height * Math.sin(Math.PI * 2 * u)] as const
    })

  it('fits the stroke with few nodes from stop to stop', async () => {
    await page.getByTestId('bend-seaplane').click()
    await page.keyboard.press('f')
    const stroke = wave([500, 292], [832, 152], 60)
    await drag(stroke)
    const course = await drawn('seaplane')
    expect(course.nodes.length).toBeGreaterThan(0)
    expect(course.nodes.length).toBeLessThan(9)
    const cubics = legCubics(await stored(), 'seaplane')
    for (const [x, y] of stroke.slice(3, -3)) expect(nearestOnChain(cubics, { x: x * GU, y: y * GU }).distance / GU).toBeLessThan(5)
  })

  it('redraws the part that a stroke begins and ends on', async () => {
    await page.getByTestId('bend-seaplane').click()
    const before = legCubics(await stored(), 'seaplane')
    await page.keyboard.press('f')
    const [a, b] = [0.3, 0.7].map((u) => {
      const [p, q] = [before[0]![0], before.at(-1)![3]]
      const on = nearestOnChain(before, { x: p.x + (q.x - p.x) * u, y: p.y + (q.y - p.y) * u }).at
      return [on.x / GU, on.y / GU] as const
    })
    await drag(wave(a!, b!, 40))
    const after = legCubics(await stored(), 'seaplane')
    const [start, end] = [before[0]![0], before.at(-1)![3]]
    expect(after[0]![0]).toEqual(start)
    expect(after.at(-1)![3]).toEqual(end)
    // What lies before the redrawn part is where it was.
    const early = nearestOnChain(before, { x: start.x + (end.x - start.x) * 0.1, y: start.y + (end.y - start.y) * 0.1 }).at
    expect(nearestOnChain(after, early).distance).toBeLessThan(0.1)
    expect(after.length).toBeGreaterThan(2)
  })

  it('is smoothed after the fact, and back again', async () => {
    await page.getByTestId('bend-seaplane').click()
    await page.keyboard.press('f')
    await drag(wave([500, 292], [832, 152], 12).map(([x, y], i) => [x, y + 9 * Math.sin(i * 1.7)] as const))
    await page.keyboard.press('Escape')
    await page.getByTestId('stop-handle').first().click()
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    const rough = await drawn('seaplane')
    await page.getByTestId('pace-strip').click({ position: { x: 900, y: 85 } })
    await page.getByRole('textbox', { name: 'Smooth' }).fill('30')
    await page.keyboard.press('Enter')
    const smooth = await drawn('seaplane')
    expect(smooth).toEqual({ ...rough, smoothing: smooth.smoothing })
    expect(smooth.smoothing).toBeGreaterThan(0)
    // It is there when one comes back to the leg, and goes back to what was drawn.
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    await page.getByTestId('pace-strip').click({ position: { x: 900, y: 85 } })
    expect(await page.getByRole('textbox', { name: 'Smooth' }).inputValue()).toBe('30')
    await page.getByRole('textbox', { name: 'Smooth' }).fill('0')
    await page.keyboard.press('Enter')
    expect(await drawn('seaplane')).toEqual(rough)
  })
})

describe('editing a drawn course', () => {
  beforeEach(async () => {
    await page.getByTestId('bend-seaplane').click()
    await page.getByRole('radio', { name: 'Drawn' }).click()
  })

  it('keeps the shape it had, with a node to take hold of', async () => {
    const course = await drawn('seaplane')
    expect(course.nodes.length).toBeGreaterThan(0)
    await page.getByRole('button', { name: 'Undo' }).click()
    expect((await leg('seaplane')).course.kind).toBe('bowed')
  })

  it('drags nodes and their handles, changes their kind, nudges and deletes them', async () => {
    const before = (await drawn('seaplane')).nodes[0]!
    await dragElement('course-node', 0, [40, 30])
    const moved = (await drawn('seaplane')).nodes[0]!
    expect(moved.at.x - before.at.x).toBeCloseTo(40 * GU, -1)
    expect(moved.after).toEqual(before.after)
    await dragElement('node-handle', 1, [0, 40])
    const pulled = (await drawn('seaplane')).nodes[0]!
    const cross = pulled.before.x * pulled.after.y - pulled.before.y * pulled.after.x
    expect(Math.abs(cross) / (Math.hypot(pulled.before.x, pulled.before.y) * Math.hypot(pulled.after.x, pulled.after.y))).toBeLessThan(1e-6)
    await page.getByRole('radio', { name: 'Corner' }).click()
    expect((await drawn('seaplane')).nodes[0]!.kind).toBe('corner')
    await page.keyboard.press('Shift+ArrowRight')
    const count = (await drawn('seaplane')).nodes.length
    await page.keyboard.press('Delete')
    expect((await drawn('seaplane')).nodes).toHaveLength(count - 1)
  })

  it('pulls the line, adds a node by a double click, and rounds sharp corners', async () => {
    const cubics = legCubics(await stored(), 'seaplane')
    const at = nearestOnChain(cubics, { x: 5000, y: 1200 }).at
    const box = await stage()
    await page.mouse.dblclick(box.x + at.x / GU, box.y + at.y / GU)
    const added = await drawn('seaplane')
    expect(added.nodes.length).toBe(cubics.length)
    await dragElement('course-node', await indexOfChosen(), [10, 40])
    expect((await drawn('seaplane')).nodes.some((node, i) => node.at.y > added.nodes[i]!.at.y + 100)).toBe(true)
    await page.keyboard.press('d')
    await click(600, 480)
    await click(660, 100)
    await page.keyboard.press('Enter')
    await page.getByTestId('round-corners').waitFor()
    await page.getByTestId('round-corners').click()
    expect(sharpCorners(legCubics(await stored(), 'seaplane'))).toEqual([])
  })

  it('breaks the line at a node, pulls the ends apart, and joins them again', async () => {
    const whole = await drawn('seaplane')
    await page.getByTestId('course-node').nth(1).click()
    await page.getByTestId('break-line').click()
    await page.getByTestId('join-breaks').waitFor()
    const broken = await drawn('seaplane')
    expect(broken.nodes).toHaveLength(whole.nodes.length + 1)
    expect(broken.nodes.flatMap(({ break: broken }, i) => (broken ? [i] : []))).toEqual([1])
    expect(await page.getByTestId('course-breaks').getAttribute('d')).toMatch(/^M\S+ \S+L\S+ \S+$/)
    await dragElement('course-node', 2, [25, 30])
    const apart = await drawn('seaplane')
    expect(Math.hypot(apart.nodes[2]!.at.x - broken.nodes[2]!.at.x, apart.nodes[2]!.at.y - broken.nodes[2]!.at.y)).toBeGreaterThan(150)
    await page.getByTestId('join-breaks').click()
    expect((await drawn('seaplane')).nodes.some((node) => node.break)).toBe(false)
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z')
    expect(await drawn('seaplane')).toEqual(whole)
  })

  async function indexOfChosen(): Promise<number> {
    const classes = await page.getByTestId('course-node').evaluateAll((nodes) => nodes.map((node) => node.classList.contains('chosen')))
    return classes.indexOf(true)
  }
})

describe('the trip', () => {
  it('takes in a stop where its course is clicked', async () => {
    const cubics = legCubics(await stored(), 'seaplane')
    const at = nearestOnChain(cubics, { x: 4300, y: 1300 }).at
    await page.keyboard.press('s')
    await click(at.x / GU, at.y / GU)
    const { travellers } = await stored()
    expect(travellers[0]!.visits).toHaveLength(6)
    expect(travellers[0]!.visits[4]!.stop).not.toBe('emberlight')
    expect(travellers[0]!.visits[5]!.stop).toBe('emberlight')
  })

  it('is turned round, and saved as a file of an open format', async () => {
    await page.getByTestId('reverse-trip').click()
    expect((await stored()).travellers[0]!.visits[0]!.stop).toBe('emberlight')
    const download = page.waitForEvent('download')
    await page.getByTestId('save-route').click()
    await page.getByText('GPX').click()
    const file = await download
    expect(file.suggestedFilename()).toMatch(/\.gpx$/)
    expect(await downloadedText(file)).toContain('<name>Emberlight to Lampwick</name>')
  })
})
