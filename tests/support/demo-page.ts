import type { Browser, Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import type { Point } from '#core/geometry/point'
import { stillDemo } from '#demo/journey'
import type { Journey } from '#core/journey/schema'
import { launchBrowser, openEditor, openPage, saved } from './browser'
import type { TestServer } from './server'
import { startServer, OWN } from './server'

/**
 * Has each test of a file begin with a fresh copy of the demo in the editor, its camera at rest over the whole sheet, and fail if anything went wrong in the page. To be called at the top of
 * the file; what it gives is there within the tests.
 */
export function useDemoPage() {
  let server: TestServer
  let browser: Browser
  let errors: string[]
  const demo = {
    page: undefined as unknown as Page,
    id: '',
    /** The server's address. */
    address: '',
    /** Opens a journey of one's own in the demo's place. */
    async open(journey: Journey): Promise<void> {
      const response = await fetch(`${server.address}/api/journeys`, { method: 'POST', headers: OWN, body: JSON.stringify({ journey }) })
      demo.id = ((await response.json()) as { id: string }).id
      await demo.page.goto(`${server.address}/journeys/${demo.id}`)
    },
    /** The journey as the server has it, once all is saved. */
    async stored(): Promise<Journey> {
      await saved(demo.page)
      return ((await (await fetch(`${server.address}/api/journeys/${demo.id}`)).json()) as { journey: Journey }).journey
    },
    /** Where a spot of the sheet, which fills the frame, is on the page. */
    async onPage({ x, y }: Point): Promise<[number, number]> {
      const box = (await demo.page.getByTestId('stage').boundingBox())!
      return [box.x + (x * box.width) / 6400, box.y + (y * box.width) / 6400]
    },
    async clickAt(p: Point): Promise<void> {
      await demo.page.mouse.click(...(await demo.onPage(p)))
    },
    selectLeg: (number: number) => demo.page.getByRole('button', { name: `Leg ${number}`, exact: true }).click(),
  }
  beforeAll(async () => {
    server = await startServer()
    demo.address = server.address
    browser = await launchBrowser()
  })
  afterAll(async () => {
    await browser.close()
    await server.stop()
  })
  beforeEach(async () => {
    const { journey } = (await (await fetch(`${server.address}/api/journeys/demo`)).json()) as { journey: Journey }
    const body = JSON.stringify({ journey: stillDemo({ ...journey, name: `${journey.name} (copy)` }) })
    const response = await fetch(`${server.address}/api/journeys`, { method: 'POST', headers: OWN, body })
    demo.id = ((await response.json()) as { id: string }).id
    const opened = await openPage(browser)
    errors = opened.errors
    demo.page = opened.page
    await openEditor(demo.page, server.address, demo.id)
  })
  afterEach(async () => {
    expect(errors).toEqual([])
    await demo.page.context().close()
  })
  return demo
}
