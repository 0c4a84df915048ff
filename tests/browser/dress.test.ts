/** Lines and vehicles dressed by hand, in the browser. */
import { readFile } from 'node:fs/promises'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { painted, stagePixels } from '../support/browser'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()

const inkOf = async (leg: number) => (await demo.stored()).travellers[0]!.legs[leg - 1]!.ink
const fold = (title: string) => demo.page.getByRole('button', { name: new RegExp(`^${title}`) }).click()

describe('the look of a line', () => {
  it('is put on from a picture, keeps its colour where the look has none, and is undone in one step', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    const before = await inkOf(1)
    await page.getByRole('radio', { name: 'Atlas' }).click()
    expect(await inkOf(1)).toMatchObject({ colour: before.colour, casing: { width: 4 }, glow: null })
    expect(await page.getByRole('radio', { name: 'Atlas' }).getAttribute('aria-checked')).toBe('true')
    await page.getByRole('radio', { name: 'Comet' }).click()
    expect(await inkOf(1)).toMatchObject({ colour: '#8fd8ff', wake: 700 })
    await page.keyboard.press('Control+z')
    await page.keyboard.press('Control+z')
    expect(await inkOf(1)).toEqual(before)
  })

  it('is copied from one leg and pasted onto another, from a menu and by keys', async () => {
    const { page } = demo
    const choose = async (title: string) => {
      await page.getByRole('button', { name: 'Copy and paste' }).click()
      await page.getByRole('listitem').filter({ hasText: title }).click()
    }
    await demo.selectLeg(1)
    await page.getByRole('radio', { name: 'Comet' }).click()
    await choose('Copy look and timing')
    await page.getByText('Copied the look and timing of this leg').waitFor()
    const comet = await inkOf(1)
    // On the strip, as the details have the leg now.
    await page.getByRole('button', { name: /^Leg 2,/ }).click()
    const before = await inkOf(2)
    await choose('Paste look')
    expect(await inkOf(2)).toEqual(comet)
    await page.keyboard.press('Control+z')
    expect(await inkOf(2)).toEqual(before)
    await page.keyboard.press('Control+v')
    expect(await inkOf(2)).toEqual(comet)
  })

  it('has several lines over one another, which are added, changed, put in another order and taken away', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    const leg = async () => (await demo.stored()).travellers[0]!.legs[0]!
    const before = await inkOf(1)
    await page.getByTestId('add-ink').click()
    // The one that was added is worked on.
    await page.getByRole('radio', { name: 'Dotted' }).click()
    expect(await leg()).toMatchObject({ ink: before, over: [{ line: { kind: 'dotted' } }] })
    const lines = page.getByTestId('ink-layer')
    expect(await lines.allTextContents()).toEqual([expect.stringMatching(/Dotted, 4 px/), expect.stringMatching(/Solid, 10 px/)])
    expect(await lines.first().getAttribute('aria-current')).toBe('true')
    await page.getByRole('button', { name: /^Move Dotted/ }).press('Alt+ArrowDown')
    expect(await leg()).toMatchObject({ ink: { line: { kind: 'dotted' } }, over: [{ line: { kind: 'solid' }, width: 10 }] })
    await lines.first().click()
    await page.getByTestId('remove-ink').click()
    expect((await leg()).over).toEqual([])
    for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z')
    expect(await leg()).toMatchObject({ ink: before, over: [] })
  })

  it('has pictures painted as the film is: no two alike, none empty', async () => {
    await demo.selectLeg(1)
    const pictures = demo.page.getByRole('radiogroup', { name: 'Ready-made looks' }).locator('img')
    const sources = await pictures.evaluateAll((images) => (images as HTMLImageElement[]).map(({ src }) => src))
    expect(sources.length).toBeGreaterThanOrEqual(14)
    expect(new Set(sources).size).toBe(sources.length)
  })

  it('is set in folded groups that say what is set in them', async () => {
    const { page } = demo
    await demo.selectLeg(2)
    await page.getByRole('radio', { name: 'Rails' }).click()
    expect((await inkOf(2)).line).toMatchObject({ kind: 'railway', space: 16 })
    await fold('Gradient, casing, shadow')
    await page.getByRole('button', { name: 'Add a gradient' }).click()
    await page.getByLabel('Casing', { exact: true }).click()
    await fold('Arrow, leader')
    await page.getByLabel('Arrow', { exact: true }).click()
    await fold('Entrance and exit')
    await page.getByLabel('Keep only a wake').click()
    await page.getByLabel('Show the planned line ahead').click()
    const ink = await inkOf(2)
    expect(ink).toMatchObject({
      gradient: ['#c9962b'],
      casing: { width: 4 },
      arrow: { shape: 'barbed' },
      wake: 400,
      planned: { line: { kind: 'dotted' } },
    })
    for (const [title, note] of [
      ['Gradient, casing, shadow', 'gradient, casing'],
      ['Arrow, leader', 'arrow'],
      ['Entrance and exit', 'wake, planned'],
    ] as const)
      expect(await page.getByRole('button', { name: new RegExp(`^${title}`) }).textContent()).toContain(note)
  })

  it('changes for all selected legs at once', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    await page.getByTestId('bend-seaplane').click({ modifiers: ['Shift'] })
    await page.getByText('2 legs are selected').waitFor()
    await page.getByRole('radio', { name: 'Chalk' }).click()
    expect([(await inkOf(1)).hand, (await inkOf(4)).hand]).toEqual(['chalk', 'chalk'])
  })
})

/** A red arrow that points to the left on a painted checkerboard, as a PNG. */
async function boxedArrow(): Promise<Buffer> {
  const squares = Array.from({ length: 240 }, (_, i) => [i % 20, Math.floor(i / 20)] as const)
  const board = squares
    .map(([x, y]) => `<rect x="${12 * x}" y="${12 * y}" width="12" height="12" fill="${(x + y) % 2 ? '#ccc' : '#fff'}"/>`)
    .join('')
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="144">${board}<path d="M20 72L110 20V50H220V94H110V124Z" fill="#d8412f"/></svg>`
  return sharp(Buffer.from(svg)).png().toBuffer()
}

describe('the vehicle of a leg', () => {
  it('gives way to another on the way, and carries a plate', async () => {
    const { page } = demo
    await demo.selectLeg(2)
    await page.getByTestId('add-change').click()
    await page.getByRole('radio', { name: 'Night train', exact: true }).click()
    const leg = async () => (await demo.stored()).travellers[0]!.legs[1]!
    expect((await leg()).changes).toMatchObject([{ at: 0.5, vehicle: { artwork: 'train' }, how: 'fade' }])
    await page.getByRole('radio', { name: 'Pops up', exact: true }).click()
    await page.getByRole('button', { name: /^Colours, motion/ }).click()
    await page.getByRole('radio', { name: 'Plate', exact: true }).click()
    await page.getByTestId('plate-words').locator('input').fill('Ada')
    expect((await leg()).changes[0]).toMatchObject({ how: 'pop', vehicle: { carries: { kind: 'plate', text: 'Ada' } } })
    expect((await leg()).vehicle).toMatchObject({ artwork: 'bicycle' })
    await page.getByRole('button', { name: 'From the start: Bicycle' }).click()
    await page.getByRole('button', { name: 'Side by side' }).click()
    await page.getByRole('textbox', { name: 'Aside' }).fill('20')
    await page.keyboard.press('Enter')
    expect((await leg()).aside).toBe(20)
    await page.getByTestId('side-by-side').click()
    expect((await leg()).aside).toBe(0)
    await page.getByTestId('ride').click()
    await page.getByTestId('remove-change').click()
    expect((await leg()).changes).toEqual([])
  })
})

describe('a style of one’s own', () => {
  it('is kept under a name, put on another leg, also in another visit, and taken away', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    await page.getByRole('radio', { name: 'Comet' }).click()
    const own = page.getByRole('group', { name: 'Your own styles' }).first()
    const kept = await inkOf(1)
    await own.getByTestId('keep-style').click()
    await own.getByTestId('style-name').locator('input').fill('Night road')
    await page.keyboard.press('Enter')
    await own.getByTestId('own-style').waitFor()
    await page.reload()
    await painted(page)
    await demo.selectLeg(3)
    await own.getByTestId('own-style').click()
    expect(await inkOf(3)).toEqual(kept)
    await page.getByRole('button', { name: 'Delete the style Night road' }).last().click()
    await own.getByTestId('own-style').waitFor({ state: 'detached' })
    expect(await inkOf(3)).toEqual(kept)
  })
})

describe('a colour', () => {
  it('is picked from the picture, kept with the journey, used again elsewhere, and forgotten', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    const more = page.getByRole('button', { name: /^Colour: #\w+; more colours/ }).first()
    await more.click()
    await page.getByTestId('pick-colour').click()
    const box = (await page.getByTestId('colour-picker').boundingBox())!
    const { width, height, pixels } = await stagePixels(page)
    const [x, y] = [Math.round(width * 0.7), Math.round(height * 0.6)]
    await page.mouse.move(box.x + (box.width * x) / width, box.y + (box.height * y) / height)
    await page.mouse.down()
    await page.mouse.up()
    await page.getByTestId('colour-picker').waitFor({ state: 'detached' })
    const { colour } = await inkOf(1)
    // As the picture was there, but for its finest grain.
    const seen = [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16))
    for (const [i, value] of seen.entries()) expect(Math.abs(value - pixels[4 * (y * width + x) + i]!)).toBeLessThan(40)
    await more.click()
    await page.getByTestId('keep-colour').click()
    // The first closes the colours alone, the leg stays selected; the second leaves it.
    await page.keyboard.press('Escape')
    await page.getByTestId('keep-colour').waitFor({ state: 'detached' })
    expect(await more.isVisible()).toBe(true)
    await page.keyboard.press('Escape')
    expect((await demo.stored()).colours).toEqual([colour])
    await demo.selectLeg(2)
    await more.click()
    await page.getByRole('button', { name: `Colour ${colour}, kept` }).click()
    expect((await inkOf(2)).colour).toBe(colour)
    await page.getByRole('button', { name: 'Remove this colour' }).click()
    expect((await demo.stored()).colours).toEqual([])
  })

  it('is not picked after all where Escape is pressed', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    const before = await inkOf(1)
    await page
      .getByRole('button', { name: /^Colour: #\w+; more colours/ })
      .last()
      .click()
    await page.getByTestId('pick-colour').click()
    await page.getByTestId('colour-picker').waitFor()
    await page.keyboard.press('Escape')
    await page.getByTestId('colour-picker').waitFor({ state: 'detached' })
    expect(await inkOf(1)).toEqual(before)
    await page
      .getByRole('button', { name: 'Leg', exact: true })
      .or(page.getByText('Ink', { exact: true }))
      .first()
      .waitFor()
  })
})

describe('a vehicle of one’s own', () => {
  async function choose(file: { name: string; mimeType: string; buffer: Buffer }) {
    const chooser = demo.page.waitForEvent('filechooser')
    await demo.page.getByTestId('own-vehicle').click()
    await (await chooser).setFiles(file)
  }
  const vehicleOf = async (leg: number) => (await demo.stored()).travellers[0]!.legs[leg - 1]!.vehicle

  it('is cut out of its box, trimmed, turned and put on the leg; the film shows it', async () => {
    const { page } = demo
    // Eight seconds into the film the second leg is under way.
    const perSecond = (await page.getByTestId('pace-strip').evaluate((strip) => strip.clientWidth - 44)) / 24
    await page.getByTestId('pace-strip').click({ position: { x: 22 + 8 * perSecond, y: 8 } })
    const redPixels = async () => {
      await painted(page)
      const { pixels } = await stagePixels(page)
      let count = 0
      for (let i = 0; i < pixels.length; i += 4)
        if (Math.max(Math.abs(pixels[i]! - 0xd8), Math.abs(pixels[i + 1]! - 0x41), Math.abs(pixels[i + 2]! - 0x2f)) < 16) count++
      return count
    }
    const redBefore = await redPixels()
    await demo.selectLeg(2)
    await choose({ name: 'arrow.png', mimeType: 'image/png', buffer: await boxedArrow() })
    await page.getByText('with a painted checkerboard').waitFor()
    await page.getByLabel('Cut it out').click()
    // The arrow covers 200 by 104 of the 240 by 144 pixels, less its softened edge.
    const size = await page.getByTestId('vehicle-preview').evaluate((canvas: HTMLCanvasElement) => [canvas.width, canvas.height])
    expect(Math.abs(size[0]! - 199)).toBeLessThan(4)
    expect(Math.abs(size[1]! - 103)).toBeLessThan(4)
    await page.getByRole('radio', { name: 'From above', exact: true }).click()
    // The arrow on the picture is turned round by its tip.
    const tip = (await page.getByTestId('facing-handle').boundingBox())!
    const anchor = (await page.getByTestId('anchor-handle').boundingBox())!
    await page.mouse.move(tip.x + tip.width / 2, tip.y + tip.height / 2)
    await page.mouse.down()
    await page.mouse.move(anchor.x - 60, anchor.y + anchor.height / 2, { steps: 5 })
    await page.mouse.up()
    await page.getByTestId('use-picture').click()
    await page.getByTestId('use-picture').waitFor({ state: 'detached' })
    const vehicle = await vehicleOf(2)
    expect(vehicle).toMatchObject({ kind: 'image', view: 'above', anchor: { x: 0.5, y: 0.5 }, size: 92 })
    expect(vehicle?.kind === 'image' && Math.abs(Math.abs(vehicle.facing) - 180)).toBeLessThanOrEqual(2)
    // It is painted: at half the size of the film 46 px long and 24 high, more than half of it red; the bicycle before it was red in part.
    expect((await redPixels()) - redBefore).toBeGreaterThan(200)
    await page.keyboard.press('Control+z')
    expect(await vehicleOf(2)).toMatchObject({ kind: 'catalogue', artwork: 'bicycle' })
    expect(Math.abs((await redPixels()) - redBefore)).toBeLessThan(100)
  })

  it('that is no picture, or an empty one, is refused with a sentence and changes nothing', async () => {
    const { page } = demo
    await demo.selectLeg(2)
    await choose({ name: 'notes.png', mimeType: 'image/png', buffer: await readFile('package.json') })
    await page.getByText('“notes.png” cannot be read as a picture').waitFor()
    await choose({
      name: 'empty.png',
      mimeType: 'image/png',
      buffer: await sharp({ create: { width: 20, height: 20, channels: 4, background: '#00000000' } })
        .png()
        .toBuffer(),
    })
    await page.getByText('“empty.png” is wholly transparent').waitFor()
    expect(await vehicleOf(2)).toMatchObject({ kind: 'catalogue' })
  })

  it('as a drawing with a script is drawn without running it', async () => {
    const { page } = demo
    await demo.selectLeg(2)
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><script>parent.hurt = 1</script><circle cx="5" cy="5" r="4"/></svg>'
    await choose({ name: 'dot.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) })
    await page.getByTestId('use-picture').click()
    await page.getByTestId('use-picture').waitFor({ state: 'detached' })
    const vehicle = await vehicleOf(2)
    expect(vehicle?.kind === 'image' && vehicle.picture.width).toBeGreaterThan(900)
    expect(await page.evaluate(() => 'hurt' in window)).toBe(false)
  })
})
