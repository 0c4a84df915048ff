/** Editing by mouse and keys in a real browser. Each test begins with a fresh copy of the demo. */
import type { Locator, Page, Route } from 'playwright-core'
import sharp from 'sharp'
import { beforeEach, describe, expect, it } from 'vitest'
import { SOUND_RATE, wavHeader } from '#core/sound/pcm'
import { openEditor, saved } from '../support/browser'
import { useDemoPage } from '../support/demo-page'
import { OWN } from '../support/server'

const demo = useDemoPage({ ownServer: true })
const { stored } = demo
let page: Page
beforeEach(() => {
  page = demo.page
})

const legs = async () => (await stored()).travellers[0]!.legs
const visits = async () => (await stored()).travellers[0]!.visits
const timecode = () => page.getByTestId('timecode').textContent()

async function drag(testId: string, by: [number, number], nth = 0) {
  const box = (await page.getByTestId(testId).nth(nth).boundingBox())!
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + by[0] / 2, y + by[1] / 2)
  await page.mouse.move(x + by[0], y + by[1], { steps: 4 })
  await page.mouse.up()
}

describe('several stops', () => {
  const places = async () => (await stored()).stops.map(({ at }) => at)

  it('are all selected by a key, turned, scaled and moved as one by a box about a pivot, and by numbers', async () => {
    const before = await places()
    await page.getByTestId('stage').click({ position: { x: 20, y: 300 } })
    await page.keyboard.press('Control+a')
    await page.getByText('5 stops are selected').waitFor()
    // A quarter turn about the middle: the knob goes from above to the right.
    const knob = (await page.getByTestId('together-knob').boundingBox())!
    const pivot = (await page.getByTestId('together-pivot').boundingBox())!
    const arm = pivot.y + pivot.height / 2 - (knob.y + knob.height / 2)
    await drag('together-knob', [arm, arm])
    const turned = await places()
    const spread = (list: { x: number; y: number }[]) => [list.map(({ x }) => x), list.map(({ y }) => y)].map((of) => Math.max(...of) - Math.min(...of)) // prettier-ignore
    const [[width, height], [across, down]] = [spread(before), spread(turned)] as [[number, number], [number, number]]
    expect(across / height).toBeCloseTo(1, 1)
    expect(down / width).toBeCloseTo(1, 1)
    await page.keyboard.press('Control+z')
    expect(await places()).toEqual(before)
    const scale = page.getByTestId('together-scale').locator('input')
    await scale.fill('50')
    await scale.press('Enter')
    expect(spread(await places())[0]! / width).toBeCloseTo(0.5, 6)
    expect(await page.getByTestId('together-scale').locator('input').inputValue()).toBe('100')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Control+z')
    // The lines between go along: a node of the first leg is where it was by as much.
    const node = async () => ((await legs())[0]!.course as { nodes: { at: { x: number } }[] }).nodes[0]!.at.x
    const was = await node()
    await page.getByTestId('stop-handle').first().focus()
    await page.keyboard.press('Shift+ArrowRight')
    const by = (await places())[0]!.x - before[0]!.x
    expect(by).toBeGreaterThan(5)
    expect((await node()) - was).toBeCloseTo(by, 3)
    // A pivot that was moved stays there, whatever is done.
    await drag('together-pivot', [60, 20])
    const put = (await page.getByTestId('together-pivot').boundingBox())!
    await page.getByTestId('stop-handle').first().focus()
    await page.keyboard.press('ArrowLeft')
    await stored()
    expect((await page.getByTestId('together-pivot').boundingBox())!.x).toBeCloseTo(put.x, 1)
  })
})

describe('the details', () => {
  const scrolled = () => page.getByRole('complementary', { name: 'Details' }).evaluate((panel) => panel.lastElementChild!.scrollTop)

  it('begin at the top for something of another kind, and stay where they are from stop to stop', async () => {
    await page.getByTestId('stop-handle').nth(1).click()
    await page.getByTestId('stop-coordinates').scrollIntoViewIfNeeded()
    const down = await scrolled()
    expect(down).toBeGreaterThan(100)
    await page.getByTestId('stop-handle').nth(2).click()
    await page.getByText('Stop 3 of 5').waitFor()
    expect(await scrolled()).toBe(down)
    await page.getByTestId('bend-seaplane').click()
    await page.getByText('Lampwick → Emberlight').waitFor()
    expect(await scrolled()).toBe(0)
  })
})

describe('the stage', () => {
  it('is 960 x 540 at 1280 x 800', async () => {
    const box = (await page.getByTestId('stage').boundingBox())!
    expect([box.width, box.height]).toEqual([960, 540])
  })

  it('moves a stop by dragging, in one step to undo and redo', async () => {
    const before = (await stored()).stops[2]!.at
    await drag('stop-handle', [48, -24], 2)
    const moved = (await stored()).stops[2]!.at
    // 960 px of stage show 6400 ground units.
    expect(moved.x - before.x).toBeCloseTo((48 * 6400) / 960, 0)
    expect(moved.y - before.y).toBeCloseTo((-24 * 6400) / 960, 0)
    await page.keyboard.press('Control+z')
    expect((await stored()).stops[2]!.at).toEqual(before)
    await page.keyboard.press('Control+Shift+z')
    expect((await stored()).stops[2]!.at).toEqual(moved)
  })

  it('nudges the selected stop with the arrow keys, by a pixel of the film, with Shift ten', async () => {
    const before = (await stored()).stops[1]!.at
    await page.getByTestId('stop-handle').nth(1).click()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Shift+ArrowDown')
    const after = (await stored()).stops[1]!.at
    expect(after.x - before.x).toBeCloseTo(6400 / 1920, 6)
    expect(after.y - before.y).toBeCloseTo((10 * 6400) / 1920, 6)
  })

  it('bends a leg by its middle', async () => {
    await drag('bend-seaplane', [30, 60])
    const { course } = (await legs())[3]!
    expect(course.kind === 'bowed' && course.bow).toBeLessThan(0.2)
  })

  it('moves a node of a drawn leg', async () => {
    await page.getByRole('button', { name: /^Leg 1,/ }).click({ position: { x: 30, y: 6 } })
    const before = (await legs())[0]!.course
    const box = (await page.locator('.node').first().boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + 40, box.y + 20, { steps: 4 })
    await page.mouse.up()
    const after = (await legs())[0]!.course
    expect(after.kind === 'drawn' && before.kind === 'drawn' && after.nodes[0]!.at.x - before.nodes[0]!.at.x).toBeGreaterThan(100)
  })

  it('drags and scales the sheet in the lens, and roams the table without touching the film', async () => {
    const { camera } = await stored()
    const stage = (await page.getByTestId('stage').boundingBox())!
    await page.mouse.move(stage.x + 700, stage.y + 500)
    await page.mouse.wheel(0, -300)
    await page.mouse.down()
    await page.mouse.move(stage.x + 640, stage.y + 470, { steps: 3 })
    await page.mouse.up()
    const scaled = (await stored()).camera
    expect(scaled.zoom / camera.zoom).toBeCloseTo(Math.exp(0.42), 3)
    expect(scaled.centre).not.toEqual(camera.centre)

    await page.keyboard.press('t')
    await page.mouse.wheel(0, -300)
    await page.mouse.down()
    await page.mouse.move(stage.x + 500, stage.y + 300, { steps: 3 })
    await page.mouse.up()
    await page.waitForTimeout(900)
    expect((await stored()).camera).toEqual(scaled)
  })

  it('deletes the selected stop and joins its legs; undo brings both back', async () => {
    const before = await stored()
    await page.getByTestId('stop-handle').nth(2).click()
    await page.keyboard.press('Delete')
    expect((await stored()).stops).toHaveLength(4)
    expect(await legs()).toHaveLength(3)
    await page.keyboard.press('Control+z')
    expect(await stored()).toEqual(before)
  })
})

describe('the pace strip', () => {
  it('sets a leg’s time by its ribbon’s end, to the frame, and a layover by its bead’s edge', async () => {
    await drag('ribbon-end-1', [50, 0])
    const [first, second] = await legs()
    expect(first!.travel).toBeNull()
    expect(second!.travel! * 30).toBeCloseTo(Math.round(second!.travel! * 30), 2)
    // About 50 px a second.
    expect(second!.travel!).toBeGreaterThan(4.5)
    await drag('bead-edge-1', [25, 0])
    expect((await visits())[1]!.layover).toBeGreaterThan(1.5)
    expect((await legs())[3]!.travel).toBeNull()
  })

  it('stops at what the film’s length allows, and says what would be needed', async () => {
    await drag('ribbon-end-0', [1100, 0])
    await page.getByText(/need at least .* s, but the journey is 24 s long/).waitFor()
    expect((await legs())[0]!.travel ?? 0).toBeLessThan(20)
  })

  it('can be worked with the keys', async () => {
    await page.getByRole('slider', { name: 'Travel time of leg 3' }).focus()
    const before = Number(await page.getByRole('slider', { name: 'Travel time of leg 3' }).getAttribute('aria-valuenow'))
    await page.keyboard.press('Shift+ArrowRight')
    const after = (await legs()).map(({ travel }) => travel)
    expect(after[2]! * 30).toBeCloseTo(Math.round(after[2]! * 30), 2)
    expect(after[2]!).toBeGreaterThan(before + 9 / 30)
    expect([after[0], after[1], after[3]]).toEqual([null, null, null])
  })

  it('scrubs, and steps by frames', async () => {
    await page.getByTestId('pace-strip').click({ position: { x: 622, y: 8 } })
    expect(await timecode()).toMatch(/^00:00:1[12]:/)
    await page.keyboard.press('Home')
    await page.keyboard.press('.')
    await page.keyboard.press('.')
    await page.keyboard.press(',')
    expect(await timecode()).toBe('00:00:00:01')
    await page.keyboard.press('End')
    expect(await timecode()).toBe('00:00:23:29')
  })

  it('loops when asked to', async () => {
    await page.keyboard.press('l')
    await page.getByTestId('pace-strip').click({ position: { x: 1215, y: 8 } })
    const start = (await timecode())!
    await page.keyboard.press('Space')
    await page.waitForFunction((from) => (document.querySelector('[data-testid="timecode"]')?.textContent ?? from) < from, start)
    await page.keyboard.press('Space')
    expect(await page.getByRole('button', { name: 'Play', exact: true }).count()).toBe(1)
  })
})

describe('the details', () => {
  it('dress a leg: line, glow, easing, and the same ink for all', async () => {
    await page.getByTestId('bend-seaplane').click()
    await page.getByRole('radio', { name: 'Dotted' }).click()
    await page.getByRole('button', { name: 'Colour #c9962b' }).first().click()
    await page.getByRole('button', { name: /^Gradient, casing/ }).click()
    await page.getByLabel('Glow').and(page.locator('input')).click()
    await page.getByRole('button', { name: 'Use this ink for all legs' }).click()
    expect((await legs()).map(({ ink }) => [ink.line.kind, ink.colour, ink.glow])).toEqual(Array(4).fill(['dotted', '#c9962b', null]))
    await page.keyboard.press('Control+z')
    expect((await legs())[0]!.ink.line.kind).toBe('solid')
  })

  it('dress a stop: name, pin, label side', async () => {
    await page.getByTestId('stop-handle').first().click()
    await page.getByTestId('stop-name').locator('input').fill('Harrow')
    await page.getByRole('radio', { name: 'Pennant' }).click()
    await page.getByRole('radio', { name: 'Side', exact: true }).click()
    await page.getByRole('radio', { name: 'bottom left' }).click()
    expect((await stored()).stops[0]).toMatchObject({
      name: 'Harrow',
      pin: { shape: 'pennant' },
      label: { place: { kind: 'side', side: 'bottom-left' } },
    })
  })

  it('put the stops into another order', async () => {
    await page.getByRole('button', { name: /^Move Lampwick/ }).focus()
    await page.keyboard.press('Alt+ArrowUp')
    expect((await visits()).map((visit) => visit.stop)).toEqual(['harrowmere', 'quillhaven', 'lampwick', 'oarsend', 'emberlight'])
    const grip = (await page.getByRole('button', { name: /^Move Harrowmere/ }).boundingBox())!
    const third = (await page.getByRole('button', { name: /^Move Lampwick/ }).boundingBox())!
    await page.mouse.move(grip.x + 8, grip.y + 12)
    await page.mouse.down()
    await page.mouse.move(grip.x + 10, grip.y + 40, { steps: 4 })
    await page.mouse.move(third.x + 10, third.y + 30, { steps: 8 })
    await page.mouse.up()
    await page.waitForTimeout(300)
    const order = (await visits()).map((visit) => visit.stop)
    expect(order[0]).toBe('quillhaven')
    const shown = await page.locator('ol .name').allTextContents()
    const names = new Map((await stored()).stops.map((stop) => [stop.id, stop.name]))
    expect(shown.map((name) => name.trim())).toEqual(order.map((stop) => names.get(stop)))
  })

  it('wash the sheet: ready-made, adjusted by hand, and back in one step each', async () => {
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByRole('radio', { name: 'Night ink' }).locator('img').waitFor()
    await page.getByRole('radio', { name: 'Night ink' }).click()
    const night = (await stored()).sheets[0]!.wash
    expect(night).toMatchObject({ twoTone: { dark: '#0a1628' }, edgeShade: { strength: 0.55 } })
    await page.getByRole('button', { name: 'Adjust …' }).click()
    await page.getByRole('textbox', { name: 'Saturation' }).fill('-40')
    await page.keyboard.press('Enter')
    expect((await stored()).sheets[0]!.wash).toEqual({ ...night, saturation: -0.4 })
    await page.getByLabel('Edge shade').and(page.locator('input')).click()
    expect((await stored()).sheets[0]!.wash!.edgeShade).toBeNull()
    for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click()
    expect((await stored()).sheets[0]!.wash).toBeNull()
  })

  it('change the film’s shape and keep the sheet filling it', async () => {
    await page.getByLabel('Shape').click({ force: true })
    await page.getByRole('option', { name: '9:16' }).click()
    expect((await stored()).frame).toMatchObject({ width: 1080, height: 1920 })
    const box = (await page.getByTestId('stage').boundingBox())!
    expect(box.width / box.height).toBeCloseTo(9 / 16, 2)
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    expect(await page.getByText('does not reach every edge').count()).toBe(0)
  })

  it('refuse a length that the set times do not fit into', async () => {
    const length = page.getByTestId('length').locator('input')
    await length.fill('4')
    await length.blur()
    await page.getByText(/need at least 7.8 s, but the journey is 4 s long/).waitFor()
    expect((await stored()).seconds).toBe(24)
  })
})

describe('saving', () => {
  it('meets another window’s changes without losing either', async () => {
    const other = await page.context().newPage()
    await openEditor(other, demo.address, demo.id)
    await other.getByTestId('journey-name').fill('Theirs')
    await other.keyboard.press('Enter')
    await saved(other)
    await page.getByTestId('journey-name').fill('Mine')
    await page.keyboard.press('Enter')
    await page.getByText('Changed in another window').waitFor()
    await page.getByRole('button', { name: 'Continue in a copy of mine' }).click()
    await page.waitForURL((url) => !url.pathname.endsWith(demo.id))
    const list = (await (await fetch(`${demo.address}/api/journeys`)).json()) as { name: string }[]
    expect(list.map((journey) => journey.name)).toEqual(expect.arrayContaining(['Theirs', 'Mine (this window)']))
  })

  it('knows that an edit undone at once leaves nothing to save', async () => {
    const saves: string[] = []
    page.on('request', (request) => request.method() === 'PUT' && saves.push(request.url()))
    await page.getByTestId('stop-handle').nth(1).click()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Control+z')
    await page.waitForTimeout(1200)
    await saved(page)
    expect(saves).toEqual([])
    // And the page still works.
    await page.keyboard.press('ArrowRight')
    await stored()
    expect(saves).toHaveLength(1)
  })

  it('tells when the server does not answer, and saves when it is back', async () => {
    await page.route('**/api/journeys/**', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()))
    await page.getByTestId('journey-name').fill('Through the storm')
    await page.keyboard.press('Enter')
    await page.getByText('Not saved', { exact: true }).waitFor()
    await page.unroute('**/api/journeys/**')
    await saved(page)
    expect((await stored()).name).toBe('Through the storm')
  })
})

describe('a save', () => {
  const put = (handle: (route: Route) => Promise<void>) =>
    page.route('**/api/journeys/*', (route) => (route.request().method() === 'PUT' ? handle(route) : route.continue()))
  const nameIt = async (name: string) => {
    await page.getByTestId('journey-name').fill(name)
    await page.keyboard.press('Enter')
  }

  it('whose answer is cut off is known to have gone through, and saving goes on', async () => {
    let cut = 0
    await put(async (route) => {
      if (cut++ > 0) return route.continue()
      const response = await route.fetch()
      await route.fulfill({ response, body: (await response.text()).slice(0, 5) })
    })
    await nameIt('Cut off')
    await page.getByText(/Trying again in \d+ s/).waitFor()
    await saved(page)
    expect(await page.getByText('Changed in another window').count()).toBe(0)
    await nameIt('And on')
    expect((await stored()).name).toBe('And on')
  })

  it('that fails is tried again and again, at once if asked to', async () => {
    let tries = 0
    await put(async (route) => {
      if (++tries < 3) await route.fulfill({ status: 500, json: { message: 'The disk is full: make room, then it goes on.' } })
      else await route.continue()
    })
    await nameIt('At last')
    await page.getByText('The disk is full').waitFor()
    // It moves while the seconds are counted down, and is gone after the last.
    await page.getByRole('button', { name: 'Try now' }).dispatchEvent('click')
    await expect.poll(() => tries).toBeGreaterThan(1)
    await saved(page)
    expect((await stored()).name).toBe('At last')
  })

  it('of a journey that was deleted in another window can bring it back', async () => {
    await saved(page)
    const id = page.url().split('/').at(-1)!
    await fetch(`${demo.address}/api/journeys/${id}`, { method: 'DELETE', headers: OWN })
    await nameIt('Still here')
    await page.getByTestId('restore-deleted').click()
    await page.getByTestId('restore-deleted').waitFor({ state: 'hidden' })
    expect((await stored()).name).toBe('Still here')
  })
})

describe('the journeys page', () => {
  /** Takes a card's menu, of which only one is open at a time, though closed ones may still be fading. */
  async function choose(card: Locator, what: string) {
    await card.getByRole('button', { name: /^More for/ }).click()
    await page.locator('.v-overlay--active .v-list-item').filter({ hasText: what }).click()
    await page.locator('.v-menu.v-overlay--active').waitFor({ state: 'detached' })
  }

  it('shows cards; renames, duplicates, deletes, and brings back', async () => {
    await page.getByRole('button', { name: 'All journeys' }).click()
    const card = () => page.getByTestId('journey-card').filter({ hasText: 'Lantern Isles (copy)' }).first()
    await card().waitFor()
    const cards = await page.getByTestId('journey-card').count()
    await choose(card(), 'Rename')
    await page.getByLabel('Name of the journey').fill('Round and round')
    await page.getByRole('button', { name: 'Rename' }).click()
    const renamed = page.getByTestId('journey-card').filter({ hasText: 'Round and round' })
    await renamed.waitFor()
    await choose(renamed, 'Delete')
    await renamed.waitFor({ state: 'detached' })
    await page.getByTestId('undo-delete').click()
    await renamed.waitFor()
    expect(await page.getByTestId('journey-card').count()).toBe(cards)
    await choose(renamed, 'Duplicate')
    await page.getByTestId('journey-card').filter({ hasText: 'Round and round (copy)' }).waitFor()
  })

  it('shows what takes up room, deletes what nobody uses, and restores deleted journeys', async () => {
    const picture = await sharp({ create: { width: 64, height: 48, channels: 3, background: '#2a7' } }).png().toBuffer() // prettier-ignore
    await fetch(`${demo.address}/api/images?name=lonely.png`, { method: 'POST', headers: OWN, body: new Uint8Array(picture) })
    const silence = Buffer.concat([wavHeader(SOUND_RATE, 2, SOUND_RATE), Buffer.alloc(4 * SOUND_RATE)])
    await fetch(`${demo.address}/api/audio?name=still.wav`, { method: 'POST', headers: OWN, body: silence })
    await fetch(`${demo.address}/api/journeys/${demo.id}`, { method: 'DELETE', headers: OWN })
    await page.goto(demo.address)
    await page.getByTestId('journey-card').first().waitFor()
    const cards = await page.getByTestId('journey-card').count()
    await expect
      .poll(async () => ((await (await fetch(`${demo.address}/api/storage`)).json()) as { pictures: unknown[] }).pictures.length, {
        timeout: 30_000,
      })
      .toBe(3)
    await page.getByTestId('storage').click()
    await page.getByText('PNG, 64 × 48').waitFor()
    expect(await page.getByText('In use').count()).toBe(2)
    await page.getByTestId('delete-images').click()
    await page.getByText('PNG, 64 × 48').waitFor({ state: 'detached' })
    // A second of silence that no journey has; it is deleted like a picture.
    expect(await page.getByText('Sound of 1 s').count()).toBe(1)
    await page.getByTestId('delete-audio').click()
    await page.getByText('Sound of 1 s').waitFor({ state: 'detached' })
    await page.getByTestId('restore').first().click()
    await expect.poll(() => page.getByTestId('journey-card').count(), { timeout: 10_000 }).toBe(cards + 1)
  })

  it('shows what was deleted on a busy server too, while posters are on their way', async () => {
    await page.getByRole('button', { name: 'All journeys' }).click()
    await page.getByTestId('journey-card').first().waitFor()
    // Every list takes longer than the time between two readings of it, and more posters are always to come.
    await page.route('**/api/journeys', async (route) => {
      const response = await route.fetch()
      const list = (await response.json()) as object[]
      await new Promise((resolve) => setTimeout(resolve, 2500))
      await route.fulfill({ json: list.map((entry) => ({ ...entry, posterIsComing: true })) })
    })
    await page.reload()
    const cards = page.getByTestId('journey-card')
    await cards.first().waitFor()
    const before = await cards.count()
    await choose(cards.first(), 'Delete')
    await expect.poll(() => cards.count(), { timeout: 12_000 }).toBe(before - 1)
    await page.unrouteAll({ behavior: 'ignoreErrors' })
  })
})
