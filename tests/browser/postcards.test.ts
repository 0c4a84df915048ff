/** Postcards in a real browser. Each test begins with a fresh copy of the demo. The photos are made up. */
import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { painted, stagePixels } from '../support/browser'
import { useDemoPage } from '../support/demo-page'
import { temporaryFolder } from '../support/server'

const demo = useDemoPage()
const { stored } = demo
const folder = temporaryFolder()
const PINK = join(folder, 'Harbour.jpg')
beforeAll(() =>
  sharp({ create: { width: 900, height: 600, channels: 3, background: '#ff00c8' } })
    .jpeg()
    .toFile(PINK),
)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const postcardsOf = async (place: number) => (await stored()).stops[place]!.postcards
const postcardOf = async (place: number) => (await postcardsOf(place))[0]
async function choosePhoto(path: string, button = demo.page.getByTestId('postcard-photo')) {
  const [chooser] = await Promise.all([demo.page.waitForEvent('filechooser'), button.click()])
  await chooser.setFiles(path)
}
/** How many pixels of the stage are as pink as the made-up photo. */
async function pinkPixels(): Promise<number> {
  await painted(demo.page)
  const { pixels } = await stagePixels(demo.page)
  let count = 0
  for (let i = 0; i < pixels.length; i += 4) if (pixels[i]! > 230 && pixels[i + 1]! < 40 && pixels[i + 2]! > 170) count++
  return count
}

describe('a postcard', () => {
  it('with a photo appears on the stage at its moment, moves to another side, and is gone at another moment and with undo', async () => {
    await demo.page.getByTestId('stop-handle').nth(1).click()
    await choosePhoto(PINK)
    await demo.page.getByTestId('postcard-thumbnail').waitFor()
    expect(await postcardOf(1)).toMatchObject({ photo: { width: 900, height: 600 }, place: { side: 'top' }, stays: 'rest' })
    const small = await pinkPixels()
    expect(small).toBeGreaterThan(15_000)
    await demo.page.getByRole('radio', { name: 'bottom right' }).last().click()
    expect((await postcardOf(1))!.place).toEqual({ kind: 'side', side: 'bottom-right' })
    expect(await pinkPixels()).toBeGreaterThan(small * 0.95)
    await demo.page.keyboard.press('Home')
    expect(await pinkPixels()).toBe(0)
    await demo.page.getByTestId('show-postcard').click()
    expect(await pinkPixels()).toBeGreaterThan(small * 0.95)
    await demo.page.keyboard.press('Control+z')
    await demo.page.keyboard.press('Control+z')
    expect(await postcardOf(1)).toBeUndefined()
    expect(await pinkPixels()).toBe(0)
  })

  it('of text has the stop’s name at first, takes other words, stays as long as asked, gets a photo, and is taken away', async () => {
    await demo.page.getByTestId('stop-handle').nth(2).click()
    await demo.page.getByTestId('postcard-text').click()
    expect(await postcardOf(2)).toMatchObject({ photo: null, text: 'Oar’s End' })
    await demo.page.getByTestId('postcard-words').locator('textarea').first().fill('Oars out')
    await demo.page.getByRole('button', { name: 'Entrance, exit, duration' }).click()
    await demo.page.getByTestId('postcard-stays').click()
    await demo.page.getByText('For a set time').click()
    expect(await postcardOf(2)).toMatchObject({ text: 'Oars out', stays: 3 })
    await choosePhoto(PINK, demo.page.getByTestId('change-photo'))
    await demo.page.getByTestId('postcard-thumbnail').waitFor()
    expect(await postcardOf(2)).toMatchObject({ text: 'Oars out', stays: 3, photo: { width: 900 } })
    await demo.page.getByTestId('remove-postcard').click()
    expect(await postcardOf(2)).toBeUndefined()
  })

  it('is cropped by its corners and with the arrow keys, takes another frame, and is dragged to another place', async () => {
    await demo.page.getByTestId('stop-handle').nth(1).click()
    await choosePhoto(PINK)
    const corner = demo.page.getByRole('button', { name: 'bottom right corner of the shown part' })
    // Its panel scrolls.
    await corner.scrollIntoViewIfNeeded()
    const whole = (await demo.page.getByTestId('postcard-thumbnail').boundingBox())!
    const grip = (await corner.boundingBox())!
    await demo.page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2)
    await demo.page.mouse.down()
    await demo.page.mouse.move(grip.x + grip.width / 2 - whole.width / 2, grip.y + grip.height / 2, { steps: 4 })
    await demo.page.mouse.up()
    const { crop } = (await postcardOf(1))!
    expect(crop).toMatchObject({ left: 0, top: 0, bottom: 1 })
    expect(crop!.right).toBeCloseTo(0.5, 1)
    await corner.focus()
    await demo.page.keyboard.press('Shift+ArrowUp')
    expect((await postcardOf(1))!.crop!.bottom).toBeCloseTo(0.9, 9)
    await demo.page.getByRole('radio', { name: 'Cinema' }).click()
    expect((await postcardOf(1))!.frame).toBe('cinema')
    const card = (await demo.page.locator('[data-card]').boundingBox())!
    const [x, y] = [card.x + card.width / 2, card.y + card.height / 3]
    await demo.page.mouse.move(x, y)
    await demo.page.mouse.down()
    await demo.page.mouse.move(x + 60, y - 30, { steps: 4 })
    await demo.page.mouse.up()
    expect((await postcardOf(1))!.place.kind).toBe('free')
    const moved = (await demo.page.locator('[data-card]').boundingBox())!
    expect(moved.x - card.x).toBeCloseTo(60, -1)
    expect(moved.y - card.y).toBeCloseTo(-30, -1)
    await demo.page.keyboard.press('Control+z')
    expect((await postcardOf(1))!.place.kind).toBe('side')
  })

  it('is followed by others, in an order that the keyboard can change', async () => {
    await demo.page.getByTestId('stop-handle').nth(1).click()
    await demo.page.getByTestId('postcard-text').click()
    await demo.page.getByTestId('postcard-words').locator('textarea').first().fill('First')
    await demo.page.getByTestId('postcard-text').click()
    await demo.page.getByTestId('postcard-words').locator('textarea').first().fill('Second')
    expect((await postcardsOf(1)).map(({ text }) => text)).toEqual(['First', 'Second'])
    await demo.page.getByRole('button', { name: 'Move Second' }).focus()
    await demo.page.keyboard.press('Alt+ArrowUp')
    expect((await postcardsOf(1)).map(({ text }) => text)).toEqual(['Second', 'First'])
    await demo.page.getByTestId('postcard').filter({ hasText: 'First' }).click()
    await demo.page.getByTestId('remove-postcard').click()
    expect((await postcardsOf(1)).map(({ text }) => text)).toEqual(['Second'])
  })

  it('is refused for what is no photo, with a sentence that says what to do, and nothing is changed', async () => {
    await demo.page.getByTestId('stop-handle').nth(1).click()
    const wrong = join(folder, 'broken.jpg')
    writeFileSync(wrong, 'not a picture')
    await choosePhoto(wrong)
    await demo.page.getByText(/“broken.jpg” .*:/).waitFor()
    const heic = join(folder, 'phone.heic')
    writeFileSync(heic, 'whatever')
    await choosePhoto(heic)
    await demo.page.getByText('“phone.heic” cannot be shown: save it as JPEG, PNG, WebP, AVIF or TIFF.').waitFor()
    expect(await postcardOf(1)).toBeUndefined()
    await demo.page.getByRole('alert').getByRole('button', { name: 'Close' }).click()
    await demo.page.getByText('cannot be shown').waitFor({ state: 'detached' })
  })
})
