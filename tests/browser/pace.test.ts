/** Timing in the browser: held moments, curves, lanes, graphs, several travellers, sound, and playing. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { beatsOf } from '#core/edits/pace/beats'
import { compile } from '#core/frame/compile'
import { SOUND_RATE, toIntegers, wavHeader } from '#core/sound/pcm'
import { downloadedText, painted } from '../support/browser'
import { useDemoPage } from '../support/demo-page'
import { journeyOver } from '../support/journeys'
import { clickTrack } from '../support/sounds'

const demo = useDemoPage()
const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-pace-'))
afterAll(() => rmSync(scratch, { recursive: true, force: true }))
const clicks = clickTrack({ tempo: 100, seconds: 30 })
const music = join(scratch, 'clicks.wav')
writeFileSync(music, Buffer.concat([wavHeader(clicks.length, 2, SOUND_RATE), new Uint8Array(toIntegers([clicks, clicks]).buffer)]))

const trip = async () => (await demo.stored()).travellers[0]!
const visits = async () => compile(await demo.stored()).travellers[0]!.visits
const stopNamed = (name: string) => demo.page.getByRole('button', { name: new RegExp(`^Stop ${name},`) })
const taller = async (steps = 14) => {
  await demo.page.getByRole('separator', { name: 'Height of the pace strip' }).focus()
  for (let i = 0; i < steps; i++) await demo.page.keyboard.press('ArrowUp')
}
async function dragBy(testId: string, by: number, nth = 0) {
  const { page } = demo
  const handle = page.getByTestId(testId).nth(nth)
  await handle.scrollIntoViewIfNeeded()
  const box = (await handle.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + by / 2, box.y + box.height / 2, { steps: 4 })
  await page.mouse.move(box.x + box.width / 2 + by, box.y + box.height / 2, { steps: 4 })
  return { up: () => page.mouse.up() }
}

describe('a moment that is held', () => {
  it('is set in a stop’s details, kept when other times change, and let go', async () => {
    const { page } = demo
    await stopNamed('Oar’s End').click()
    const arrives = page.getByRole('radiogroup', { name: 'Arrives' })
    await arrives.getByRole('radio', { name: 'Held at' }).click()
    await page.getByTestId('arrive-at').locator('input').fill('12')
    await page.keyboard.press('Enter')
    expect((await visits())[2]!.arrive).toBe(12)
    await (await dragBy('ribbon-end-0', 40)).up()
    expect((await trip()).legs[0]!.travel).not.toBeNull()
    expect((await visits())[2]!.arrive).toBe(12)
    await stopNamed('Oar’s End').click()
    await arrives.getByRole('radio', { name: 'Not held' }).click()
    expect((await trip()).visits[2]!.arriveAt).toBeNull()
  })

  it('is made by dragging a bead, which tells where it will be, and with the arrow keys', async () => {
    const { page } = demo
    const bead = stopNamed('Lampwick')
    const box = (await bead.boundingBox())!
    await page.mouse.move(box.x + 20, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + 60, box.y + box.height / 2, { steps: 5 })
    expect(await page.getByTestId('strip-readout').innerText()).toMatch(/^Arrives at \d+\.\d\d s$/)
    await page.mouse.up()
    const held = (await trip()).visits[3]!.arriveAt!
    expect((await visits())[3]!.arrive).toBeCloseTo(held, 2)
    expect(await bead.getAttribute('aria-label')).toContain('arrival held at')
    await bead.focus()
    await page.keyboard.press('ArrowRight')
    expect((await trip()).visits[3]!.arriveAt! - held).toBeCloseTo(1 / 30, 3)
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    expect((await trip()).visits[3]!.arriveAt).toBeNull()
  })

  it('that cannot be met is refused, with what would do', async () => {
    const { page } = demo
    await stopNamed('Quillhaven').click()
    await page.getByRole('radiogroup', { name: 'Arrives' }).getByRole('radio', { name: 'Held at' }).click()
    await page.getByTestId('arrive-at').locator('input').fill('23.9')
    await page.keyboard.press('Enter')
    await page.getByText(/need at least .* s, but the journey is 24 s long/).waitFor()
    await page
      .getByTestId('fix')
      .filter({ hasText: /^Make the film .* s long$/ })
      .click()
    const { seconds } = await demo.stored()
    expect(seconds).toBeGreaterThan(24)
    expect((await visits())[1]!.arrive).toBeCloseTo(23.9, 1)
    await page.keyboard.press('Control+z')
    expect((await demo.stored()).seconds).toBe(24)
  })
})

describe('the length of the film', () => {
  it('grows with the trip where it is as long as needed', async () => {
    const { page } = demo
    await page.getByRole('radio', { name: 'As needed' }).click()
    const before = (await demo.stored()).seconds
    expect(Math.abs(before - 24)).toBeLessThan(1.5)
    await page.getByTestId('leg-seconds').locator('input').fill('6')
    await page.keyboard.press('Enter')
    expect((await demo.stored()).seconds).toBeGreaterThan(before + 4)
    await page.getByRole('radio', { name: 'Set', exact: true }).first().click()
    expect((await demo.stored()).legSeconds).toBeNull()
  })

  it('goes along with a time when what follows is shifted', async () => {
    const { page } = demo
    const before = await visits()
    await page.getByTestId('strip-shifts').click()
    await (await dragBy('ribbon-end-1', 50)).up()
    const after = await visits()
    const by = after[2]!.arrive - before[2]!.arrive
    expect(by).toBeGreaterThan(0.5)
    for (const i of [2, 3, 4]) expect(after[i]!.arrive - before[i]!.arrive).toBeCloseTo(by, 1)
    expect((await demo.stored()).seconds - 24).toBeCloseTo(by, 1)
  })
})

describe('the pace of a leg', () => {
  it('is chosen from curves, bent by handles, and has marks on the way', async () => {
    const { page } = demo
    await demo.selectLeg(2)
    await page.getByRole('radio', { name: /^Natural:/ }).click()
    expect((await trip()).legs[1]!.easing).toEqual({ kind: 'natural', bends: 1 })
    await page.getByRole('radio', { name: /^Cruise:/ }).click()
    expect((await trip()).legs[1]!.easing).toEqual({ kind: 'cruise', accelerate: 1, brake: 1 })
    await page.getByRole('radio', { name: /^Take-off/ }).click()
    await page.getByRole('button', { name: /^Shape the curve/ }).click()
    await (await dragBy('curve-handle-1', -40)).up()
    const bent = (await trip()).legs[1]!.easing as number[]
    expect(bent[0]).toBeLessThan(0.7)
    await page.getByTestId('curve-handle-2').focus()
    await page.keyboard.press('ArrowUp')
    expect(((await trip()).legs[1]!.easing as number[])[3]).toBeCloseTo(bent[3]! + 0.01, 2)
    expect(await page.getByTestId('easing-name').innerText()).toBe('A curve of your own')
    await page.getByRole('button', { name: /^Marks on the way/ }).click()
    await page.getByTestId('add-wait').click()
    await page.getByTestId('add-speed').click()
    expect((await trip()).legs[1]!.paceMarks).toMatchObject([
      { kind: 'wait', seconds: 1 },
      { kind: 'speed', factor: 0.5 },
    ])
    await page.getByRole('button', { name: 'Remove mark 1' }).click()
    expect((await trip()).legs[1]!.paceMarks).toHaveLength(1)
  })

  it('of several legs is scaled together', async () => {
    const { page } = demo
    const taken = async () => {
      const at = await visits()
      return [1, 2].map((i) => at[i + 1]!.arrive - at[i]!.leave)
    }
    const before = await taken()
    await demo.page.locator('[aria-label^="Leg 2, "]').click()
    await demo.page.locator('[aria-label^="Leg 3, "]').click({ modifiers: ['Shift'] })
    await page.getByTestId('several').waitFor()
    await (await dragBy('ribbon-end-2', 60)).up()
    const after = await taken()
    expect(after[0]! + after[1]!).toBeGreaterThan(before[0]! + before[1]! + 0.8)
    expect(after[0]! / after[1]!).toBeCloseTo(before[0]! / before[1]!, 1)
  })
})

describe('what appears and leaves', () => {
  it('is moved in its lane, and stays tied to its stop', async () => {
    const { page } = demo
    await taller()
    await page.getByTestId('strip-lanes').click()
    const lane = page.getByTestId('lane-cards')
    await lane.waitFor()
    const bar = lane.getByTestId('lane-bar')
    const before = Number(await bar.getAttribute('aria-valuenow'))
    await bar.focus()
    await page.keyboard.press('Shift+ArrowRight')
    expect(Number(await bar.getAttribute('aria-valuenow')) - before).toBeCloseTo(1 / 3, 2)
    const card = (await demo.stored()).stops.flatMap(({ postcards }) => postcards)[0]!
    expect(card.delay).toBeCloseTo(1 / 3, 2)
    const titles = page.getByTestId('lane-titles')
    await titles.getByTestId('lane-to').first().focus()
    await page.keyboard.press('Shift+ArrowLeft')
    expect((await demo.stored()).captions[0]!.shown).not.toBeNull()
  })

  it('changes from the play position on, in the details and in a lane, and is brought back', async () => {
    const { page } = demo
    await taller()
    await page.getByTestId('pace-strip').click({ position: { x: 420, y: 8 } })
    await page.getByRole('button', { name: /^Leg 2,/ }).click()
    await page.getByRole('button', { name: /^Changes over time/ }).click()
    const add = async (value: string) => {
      await page.getByTestId('add-value').click()
      await page
        .getByRole('listitem')
        .filter({ hasText: new RegExp(`^${value}$`) })
        .click()
    }
    const type = async (field: string, text: string) => {
      const input = page.getByTestId(field).locator('input[type=text], input:not([type])').last()
      await input.fill(text)
      await input.press('Enter')
    }
    // It has no glow that could shine.
    await page.getByTestId('add-value').click()
    expect(
      await page
        .getByRole('listitem')
        .filter({ hasText: /^Light of the line$/ })
        .count(),
    ).toBe(0)
    await page.keyboard.press('Escape')
    await add('Line width')
    await type('value-to', '300')
    await type('value-within', '2')
    const leg = (await demo.stored()).travellers[0]!.legs[1]!.id
    expect((await demo.stored()).valueMarks).toMatchObject([{ value: 'line-width', leg, to: 3, within: 2, at: { stop: 'quillhaven' } }])
    await page.getByTestId('strip-lanes').click()
    const bar = page.getByTestId('lane-values').getByTestId('lane-bar')
    const before = Number(await bar.getAttribute('aria-valuenow'))
    await bar.focus()
    await page.keyboard.press('Shift+ArrowRight')
    expect(Number(await bar.getAttribute('aria-valuenow')) - before).toBeCloseTo(1 / 3, 2)
    // The next one goes back to what is set.
    await page.getByRole('button', { name: /→/ }).click()
    await page.getByTestId('pace-strip').click({ position: { x: 620, y: 8 } })
    await add('Line width')
    expect((await demo.stored()).valueMarks.map(({ to }) => to)).toEqual([3, 1])
    await page.getByRole('button', { name: 'Delete' }).click()
    await page.getByTestId('value-mark').click()
    await page.getByRole('button', { name: 'Delete' }).click()
    expect((await demo.stored()).valueMarks).toEqual([])
    await page.keyboard.press('Control+z')
    expect((await demo.stored()).valueMarks).toHaveLength(1)
  })

  it('comes in a way and a time of its own, which are brought back at a click', async () => {
    const { page } = demo
    await page.getByRole('button', { name: 'Quillhaven' }).first().click()
    const pin = async () => (await demo.stored()).stops.find(({ id }) => id === 'quillhaven')!.pin
    await page
      .getByRole('button', { name: /^Inside, circle/ })
      .first()
      .click()
    await page.getByTestId('pin-comes').click()
    await page.getByRole('option', { name: 'Drops' }).click()
    const takes = page.getByTestId('pin-takes').locator('input')
    expect(await takes.inputValue()).toBe('0.4')
    await takes.fill('24f')
    await takes.press('Enter')
    expect(await pin()).toMatchObject({ comes: 'drop', comesIn: 0.8 })
    await page.getByRole('button', { name: 'Takes: back to 0.4 s' }).click()
    expect((await pin()).comesIn).toBeUndefined()
    expect(await takes.inputValue()).toBe('0.4')
  })

  it('is noted at moments, which go along', async () => {
    const { page } = demo
    await page.getByTestId('pace-strip').click({ position: { x: 420, y: 8 } })
    await page.keyboard.press('n')
    await page.getByTestId('note-text').locator('textarea').first().fill('Cut to the harbour here')
    await page.getByRole('button', { name: /^Note at .*: Cut to the harbour here$/ }).waitFor()
    const [note] = (await demo.stored()).notes
    expect(note).toMatchObject({ text: 'Cut to the harbour here', at: { stop: 'quillhaven' } })
    await page.getByTestId('note').focus()
    await page.keyboard.press('Delete')
    expect((await demo.stored()).notes).toEqual([])
  })
})

describe('a trip of a hundred stops', () => {
  it('is drawn in a few lines, names what is pointed at, and gives handles to what is selected', async () => {
    const { page } = demo
    await demo.open({ ...journeyOver(Array.from({ length: 100 }, (_, i) => [100 + 17 * i, 500 + 300 * Math.sin(i / 5)] as const), {}, 120), name: 'Hundred' }) // prettier-ignore
    await painted(page)
    const strip = page.getByTestId('pace-strip')
    const handles = strip.locator('[data-testid^="ribbon-end"]')
    expect(await handles.count()).toBe(0)
    expect(await strip.locator('.lines path').count()).toBeLessThan(12)
    // Some names have room; they do not overlap.
    const boxes = await strip.locator('.lines text').evaluateAll((texts) => texts.map((text) => text.getBoundingClientRect()).map(({ left, right }) => [left, right] as const)) // prettier-ignore
    expect(boxes.length).toBeGreaterThan(4)
    boxes.slice(1).forEach(([left], i) => expect(left).toBeGreaterThanOrEqual(boxes[i]![1]))
    const row = (await strip.locator('svg.dense').boundingBox())!
    const { visits: all } = compile(await demo.stored()).travellers[0]!
    const x = (time: number) => row.x + 22 + (time * (row.width - 44)) / 120
    await page.mouse.move(x(all[40]!.arrive), row.y + 32)
    await strip.locator('.pointed').waitFor()
    await page.mouse.click(x((all[40]!.leave + all[41]!.arrive) / 2), row.y + 32)
    await handles.first().waitFor()
    expect(await handles.count()).toBe(1)
    await page.keyboard.press('Escape')
    // Closer, everything can be grabbed.
    for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Zoom in' }).click()
    await handles.nth(3).waitFor()
  })
})

describe('graphs', () => {
  it('show speed, turning and zoom with their values at the play position', async () => {
    const { page } = demo
    await taller()
    await page.getByTestId('strip-graphs').click()
    await page.getByTestId('pace-strip').click({ position: { x: 200, y: 8 } })
    await page
      .getByTestId('graph-Speed')
      .getByText(/\d km a second/)
      .waitFor()
    await page.keyboard.press('Home')
    await page.getByTestId('graph-Speed').getByText('0.00 km a second').waitFor()
    expect(await page.getByTestId('graph-Zoom').innerText()).toMatch(/\d % of the closest/)
    expect(await page.getByTestId('graphs').locator('svg path').count()).toBeGreaterThan(3)
    await page.keyboard.press('Escape')
    await demo.selectLeg(1)
    await page.getByRole('radio', { name: /^Even/ }).click()
    await page.getByTestId('jumps').waitFor()
  })
})

describe('music', () => {
  it('is added, its beats are found, stops arrive on them, and it plays in time', async () => {
    const { page } = demo
    await page.getByRole('button', { name: /^Music and sounds/ }).click()
    const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('add-audio').click()])
    await chooser.setFiles(music)
    await page.getByTestId('audio-lane').waitFor()
    await page.getByTestId('find-beats').click()
    await page.getByText(/beats, (99\.\d|100\.\d) a minute/).waitFor()
    await page.getByTestId('arrive-on-beats').click()
    const journey = await demo.stored()
    const beats = beatsOf(journey)
    for (const { arrive } of (await visits()).slice(1))
      expect(Math.min(...beats.map((beat) => Math.abs(beat - arrive)))).toBeLessThan(1 / 59)
    // It is cut by its end, and heard later.
    await taller(6)
    await page.getByTestId('audio-bar').focus()
    await page.keyboard.press('Shift+ArrowRight')
    expect((await demo.stored()).audio[0]!.offset).toBeCloseTo(1 / 3, 2)
    await page.getByTestId('audio-to').focus()
    await page.keyboard.press('ArrowLeft')
    expect((await demo.stored()).audio[0]!.to).toBeCloseTo(30 - 1 / 30, 2)
    await page.keyboard.press('Home')
    await page.getByTestId('mute').waitFor()
    await page.keyboard.press('Escape')
    await page.keyboard.press('Space')
    await page.waitForFunction(() => (document.querySelector('[data-testid="timecode"]')?.textContent ?? '') > '00:00:01:10')
    await page.keyboard.press('Space')
  })

  it('that cannot be read is refused with a sentence', async () => {
    const { page } = demo
    await page.getByRole('button', { name: /^Music and sounds/ }).click()
    const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('add-audio').click()])
    await chooser.setFiles({ name: 'odd.mp3', mimeType: 'audio/mpeg', buffer: Buffer.from('nothing to hear') })
    await page.getByText('“odd.mp3” is not a sound that can be read').waitFor()
    expect((await demo.stored()).audio).toEqual([])
  })
})

describe('playing', () => {
  it('loops a range, goes from stop to stop, and keeps its time at any speed', async () => {
    const { page } = demo
    const code = () => page.getByTestId('timecode').innerText()
    await page.keyboard.press('PageDown')
    const at = await visits()
    const [arrive] = [at[1]!.arrive]
    expect(await code()).toBe(`00:00:0${Math.floor(arrive)}:${String(Math.round((arrive % 1) * 30)).padStart(2, '0')}`)
    await page.keyboard.press('[')
    for (let i = 0; i < 2; i++) await page.keyboard.press('>')
    await page.keyboard.press(']')
    await page.getByTestId('range-to').waitFor()
    await page.keyboard.press('PageUp')
    await page.keyboard.press('Space')
    await page.waitForTimeout(1500)
    await page.keyboard.press('Space')
    const looped = await code()
    expect(looped >= '00:00:05:00' && looped < '00:00:08:00').toBe(true)
    await page.getByTestId('clear-range').click()
    await page.keyboard.press('l')
    await page.getByTestId('speed').click()
    await page.getByText('4 ×').click()
    await page.keyboard.press('Home')
    await painted(page)
    const started = Date.now()
    await page.keyboard.press('Space')
    await page.waitForFunction(() => (document.querySelector('[data-testid="timecode"]')?.textContent ?? '') >= '00:00:08:00')
    // Eight seconds of film take two at four times the speed: not less. That they do not take more is tested without a clock, with the store.
    const took = (Date.now() - started) / 1000
    await page.keyboard.press('Space')
    expect(took).toBeGreaterThan(1.5)
  })

  it('saves when the film is at which stop', async () => {
    const { page } = demo
    await page.getByTestId('save-words').click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByText('Chapters (WebVTT)').click()])
    expect(download.suggestedFilename()).toBe('Round the Lantern Isles (copy).vtt')
    expect(await downloadedText(download)).toMatch(/^WEBVTT\n\n1\n00:00:00\.000 --> .*\nHarrowmere\n/)
  })
})
