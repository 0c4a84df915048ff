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

const postcardOf = async (place: number) => (await stored()).stops[place]!.postcard
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
    expect(await postcardOf(1)).toMatchObject({ photo: { width: 900, height: 600 }, side: 'top', stays: 'rest' })
    const small = await pinkPixels()
    expect(small).toBeGreaterThan(15_000)
    await demo.page.getByRole('radio', { name: 'bottom right' }).last().click()
    expect((await postcardOf(1))!.side).toBe('bottom-right')
    expect(await pinkPixels()).toBeGreaterThan(small * 0.95)
    await demo.page.keyboard.press('Home')
    expect(await pinkPixels()).toBe(0)
    await demo.page.getByTestId('show-postcard').click()
    expect(await pinkPixels()).toBeGreaterThan(small * 0.95)
    await demo.page.keyboard.press('Control+z')
    await demo.page.keyboard.press('Control+z')
    expect(await postcardOf(1)).toBeNull()
    expect(await pinkPixels()).toBe(0)
  })

  it('of text has the stop’s name at first, takes other words, stays as long as asked, gets a photo, and is taken away', async () => {
    await demo.page.getByTestId('stop-handle').nth(2).click()
    await demo.page.getByTestId('postcard-text').click()
    expect(await postcardOf(2)).toMatchObject({ photo: null, text: 'Oar’s End' })
    await demo.page.getByTestId('postcard-words').locator('textarea').first().fill('Oars out')
    await demo.page.getByTestId('postcard-stays').click()
    await demo.page.getByText('For a set time').click()
    expect(await postcardOf(2)).toMatchObject({ text: 'Oars out', stays: 3 })
    await choosePhoto(PINK)
    await demo.page.getByTestId('postcard-thumbnail').waitFor()
    expect(await postcardOf(2)).toMatchObject({ text: 'Oars out', stays: 3, photo: { width: 900 } })
    await demo.page.getByTestId('remove-postcard').click()
    expect(await postcardOf(2)).toBeNull()
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
    expect(await postcardOf(1)).toBeNull()
    await demo.page.getByRole('alert').getByRole('button', { name: 'Close' }).click()
    await demo.page.getByText('cannot be shown').waitFor({ state: 'detached' })
  })
})
