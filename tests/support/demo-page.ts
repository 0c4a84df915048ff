import type { BrowserContext, Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import type { Point } from '#core/geometry/point'
import type { Journey } from '#core/journey/schema'
import { stillDemo } from '#demo/journey'
import type { OpenedPage } from './browser'
import { openContext, openPageIn, painted, saved, unfoldCatalogues, VIEWPORT } from './browser'
import { OWN } from './server'
import { sharedBrowser, sharedServer, startServer } from './shared'

/** Goes to a journey within the application, as from the list of journeys, in a window as large as at first and with the preferences of a first visit. */
async function goTo(page: Page, id: string): Promise<void> {
  await page.setViewportSize(VIEWPORT)
  await page.evaluate(() => {
    localStorage.clear()
    sessionStorage.clear()
  })
  await page.evaluate(unfoldCatalogues)
  await page.evaluate(
    (path) => (window as unknown as { useNuxtApp(): { $router: { push(to: string): Promise<unknown> } } }).useNuxtApp().$router.push(path),
    `/journeys/${id}`,
  )
  await page.waitForFunction((wanted) => document.querySelector('[data-journey]')?.getAttribute('data-journey') === wanted, id)
}

/**
 * Has each test of a file begin with a fresh copy of the demo in the editor, its camera at rest over the whole sheet, and fail if anything went wrong in the page. To be called at the top of
 * the file; what it gives is there within the tests.
 * @param options.ownServer for files that change more than their own journey, or count what the server has
 */
export function useDemoPage({ ownServer = false } = {}) {
  let context: BrowserContext
  let opened: OpenedPage | undefined
  let original: Journey
  const demo = {
    page: undefined as unknown as Page,
    id: '',
    /** The server's address. */
    address: '',
    /** Opens a journey of one's own in the demo's place. */
    async open(journey: Journey): Promise<void> {
      demo.id = await demo.store(journey)
      await goTo(demo.page, demo.id)
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
    if (opened) await goTo(opened.page, demo.id)
    else {
      opened = await openPageIn(context, demo.address)
      await opened.page.goto(`${demo.address}/journeys/${demo.id}`)
    }
    demo.page = opened.page
    await painted(demo.page)
  })
  afterEach(async ({ task }) => {
    expect(opened!.errors).toEqual([])
    await demo.page.unrouteAll({ behavior: 'ignoreErrors' })
    // To load the application takes longer than most tests: a page goes on to the next journey, as a window of the application does, unless something went wrong in it.
    if (task.result?.state === 'fail' || demo.page.isClosed() || !demo.page.url().includes('/journeys/')) {
      await demo.page.close()
      opened = undefined
    }
    // Nobody is going to look at it: no poster of it need be painted.
    await fetch(`${demo.address}/api/journeys/${demo.id}`, { method: 'DELETE', headers: OWN })
  })
  afterAll(() => context.close())
  return demo
}
