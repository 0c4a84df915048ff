/** What is beside the way, in a real browser. Each test begins with a fresh copy of the demo. The pictures are made up. */
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { painted, stagePixels } from '../support/browser'
import { useDemoPage } from '../support/demo-page'
import { temporaryFolder } from '../support/server'

const demo = useDemoPage()
const { stored } = demo
const folder = temporaryFolder()
const PINK = join(folder, 'Hut.png')
beforeAll(() =>
  sharp({ create: { width: 300, height: 200, channels: 4, background: '#ff00c8' } })
    .png()
    .toFile(PINK),
)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

async function pinkPixels(): Promise<number> {
  await painted(demo.page)
  const { pixels } = await stagePixels(demo.page)
  let count = 0
  for (let i = 0; i < pixels.length; i += 4) if (pixels[i]! > 230 && pixels[i + 1]! < 40 && pixels[i + 2]! > 170) count++
  return count
}
const open = () => demo.page.getByRole('button', { name: 'Landmarks' }).click()
async function choosePicture(press: () => Promise<void>) {
  const [chooser] = await Promise.all([demo.page.waitForEvent('filechooser'), press()])
  await chooser.setFiles(PINK)
  await demo.page.getByTestId('use-picture').click()
  await demo.page.getByTestId('use-picture').waitFor({ state: 'detached' })
}
async function drag(testid: string, dx: number, dy: number) {
  const { x, y, width, height } = (await demo.page.getByTestId(testid).last().boundingBox())!
  await demo.page.mouse.move(x + width / 2, y + height / 2)
  await demo.page.mouse.down()
  await demo.page.mouse.move(x + width / 2 + dx, y + height / 2 + dy, { steps: 4 })
  await demo.page.mouse.up()
}

describe('landmarks', () => {
  it('are marks that are named, dragged, nudged, and deleted by keyboard', async () => {
    const { page } = demo
    await open()
    await page.getByTestId('add-mark').click()
    await page.getByTestId('landmark-name').locator('input').fill('Old mill')
    const [before] = (await stored()).landmarks
    expect(before).toMatchObject({ kind: 'mark', name: 'Old mill', pin: { shape: 'disc' }, label: { shown: true } })
    await drag('landmark-handle', 40, 25)
    const [dragged] = (await stored()).landmarks
    expect(dragged!.at.x).toBeGreaterThan(before!.at.x)
    await page.getByTestId('landmark-handle').focus()
    await page.keyboard.press('ArrowLeft')
    expect((await stored()).landmarks[0]!.at.x).toBeLessThan(dragged!.at.x)
    await page.getByTestId('landmark-handle').focus()
    await page.keyboard.press('Delete')
    expect((await stored()).landmarks).toEqual([])
    await page.keyboard.press('Control+z')
    expect((await stored()).landmarks).toHaveLength(1)
  })

  it('are names alone, whose details leave out what only stops have', async () => {
    const { page } = demo
    await open()
    await page.getByTestId('add-words').click()
    expect((await stored()).landmarks[0]).toMatchObject({ pin: { shape: 'none' }, label: { place: { kind: 'free', x: 0, y: 0 } } })
    await page.getByRole('radio', { name: 'Kite' }).click()
    await page.getByRole('button', { name: 'Inside, circle' }).click()
    await page.getByRole('radio', { name: 'Letters', exact: true }).waitFor()
    expect(await page.getByRole('radio', { name: 'Number', exact: true }).count()).toBe(0)
    await page.getByRole('radio', { name: 'Picture', exact: true }).click()
    await page.getByRole('radio', { name: 'anchor' }).click()
    expect((await stored()).landmarks[0]).toMatchObject({ pin: { shape: 'drop', inside: { kind: 'icon', icon: 'anchor' } } })
  })

  it('are pictures that stand on the map, are dragged larger, lie down, and are there only for a while', async () => {
    const { page } = demo
    await open()
    await choosePicture(() => page.getByTestId('add-landmark-picture').click())
    await page.getByTestId('landmark-name').waitFor()
    const [first] = (await stored()).landmarks
    expect(first).toMatchObject({ kind: 'standing', name: 'Hut', picture: { width: 300, height: 200 } })
    const small = await pinkPixels()
    expect(small).toBeGreaterThan(1000)
    await drag('landmark-corner', 40, -27)
    expect(await pinkPixels()).toBeGreaterThan(1.3 * small)
    await page.getByRole('radio', { name: 'Lying' }).click()
    expect((await stored()).landmarks[0]).toMatchObject({ kind: 'lying', rotation: 0 })
    expect(await pinkPixels()).toBeGreaterThan(small)
    await page.getByLabel('Only part of the film').click()
    await page.keyboard.press('Home')
    expect(await pinkPixels()).toBeGreaterThan(small)
    expect((await stored()).landmarks[0]!.shown).not.toBeNull()
  })

  it('and a stop’s pin may be a picture of one’s own', async () => {
    const { page } = demo
    await page.getByTestId('stop-handle').nth(0).click()
    await choosePicture(() => page.getByRole('radio', { name: 'A picture of your own' }).click())
    await page.keyboard.press('End')
    expect((await stored()).stops[0]!.pin).toMatchObject({ shape: 'own', picture: { width: 300, anchor: { x: 0.5, y: 1 } } })
    expect(await pinkPixels()).toBeGreaterThan(300)
    // Another shape keeps the picture for later.
    await page.getByRole('radio', { name: 'Star' }).click()
    expect(await pinkPixels()).toBe(0)
    await page.getByRole('radio', { name: 'A picture of your own' }).click()
    expect((await stored()).stops[0]!.pin.shape).toBe('own')
  })
})
