import type { BrowserContext, Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import type { Point } from '#core/geometry/point'
import type { Journey } from '#core/journey/schema'
import { stillDemo } from '#demo/journey'
import { openContext, openEditor, openPageIn, saved } from './browser'
import { OWN } from './server'
import { sharedBrowser, sharedServer, startServer } from './shared'

/**
 * Has each test of a file begin with a fresh copy of the demo in the editor, its camera at rest over the whole sheet, and fail if anything went wrong in the page. To be called at the top of
 * the file; what it gives is there within the tests.
 * @param options.ownServer for files that change more than their own journey, or count what the server has
 */
export function useDemoPage({ ownServer = false } = {}) {
  let context: BrowserContext
  let errors: string[]
  let original: Journey
  const demo = {
    page: undefined as unknown as Page,
    id: '',
    /** The server's address. */
    address: '',
    /** Opens a journey of one's own in the demo's place. */
    async open(journey: Journey): Promise<void> {
      demo.id = await demo.store(journey)
      await demo.page.goto(`${demo.address}/journeys/${demo.id}`)
    },
    /** Stores a journey. @returns its id */
    async store(journey: Journey): Promise<string> {
      const response = await fetch(`${demo.address}/api/journeys`, { method: 'POST', headers: OWN, body: JSON.stringify({ journey }) })
      return ((await response.json()) as { id: string }).id
    },
    /** The journey as the server has it, once all is saved. */
    async stored(): Promise<Journey> {
      await saved(demo.page)
      return ((await (await fetch(`${demo.address}/api/journeys/${demo.id}`)).json()) as { journey: Journey }).journey
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
    const browser = await sharedBrowser()
    const server = ownServer ? await startServer() : undefined
    demo.address = (server ?? sharedServer()).address
    context = await openContext(browser)
    const { journey } = (await (await fetch(`${demo.address}/api/journeys/demo`)).json()) as { journey: Journey }
    original = stillDemo({ ...journey, name: `${journey.name} (copy)` })
    return async () => {
      await browser.close()
      await server?.stop()
    }
  })
  beforeEach(async () => {
    demo.id = await demo.store(original)
    const opened = await openPageIn(context, demo.address)
    errors = opened.errors
    demo.page = opened.page
    await openEditor(demo.page, demo.address, demo.id)
  })
  afterEach(async () => {
    expect(errors).toEqual([])
    await demo.page.close()
  })
  afterAll(() => context.close())
  return demo
}
