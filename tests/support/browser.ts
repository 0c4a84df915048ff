import { text } from 'node:stream/consumers'
import type { Browser, BrowserContext, BrowserServer, Download, Page } from 'playwright-core'
import { chromium } from 'playwright-core'

/**
 * The pages that show the suggestions of a window's address bar, each of which takes a process and a second of its time for every window; and what Playwright turns
 * off, as only the last list counts.
 */
const OFF = [
  'WebUIOmniboxPopup',
  'WebUIOmniboxAimPopup',
  'WebUIOmniboxFullPopup',
  'AimEnabled',
  'AvoidCorsURLLoaderRestartOnRedirect',
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsFirstBalancedModeAutoEnable',
  'HttpsUpgrades',
  'LensOverlay',
  'MediaRouter',
  'NetworkTimeServiceQuerying',
  'OptimizationHints',
  'PaintHolding',
  'PreconnectToSearch',
  'ThirdPartyStoragePartitioning',
]

const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  `--disable-features=${OFF.join(',')}`,
]

const OPTIONS = { executablePath: '/usr/bin/chromium', args: FLAGS }

export const launchBrowser = (): Promise<Browser> => chromium.launch(OPTIONS)

/** A browser that several processes can use. */
export const launchServer = (): Promise<BrowserServer> => chromium.launchServer(OPTIONS)

export const VIEWPORT = { width: 1280, height: 800 }

/** How long anything that is waited for may take, in milliseconds: several times as long as on a quiet machine. */
const PATIENCE = 90_000

/** With as little motion as people can ask for: animations take time. @param folds whether catalogues are folded to a row, as people find them; tests choose from all of them */
export async function openContext(browser: Browser, folds = false): Promise<BrowserContext> {
  const context = await browser.newContext({ viewport: VIEWPORT, acceptDownloads: true, locale: 'en-GB', reducedMotion: 'reduce' })
  context.setDefaultTimeout(PATIENCE)
  await context.addInitScript(watchStage)
  if (!folds) await context.addInitScript(unfoldCatalogues)
  return context
}

export interface OpenedPage {
  page: Page
  /** What has gone wrong in it. */
  errors: string[]
}

/** A page of 1280 x 800 that collects what goes wrong in it. */
export async function openPage(browser: Browser, folds = false): Promise<OpenedPage> {
  return collecting(await (await openContext(browser, folds)).newPage())
}

/** Another page in a context whose cache holds the application, as if nothing had been opened before: what pages at an address have stored is deleted. */
export async function openPageIn(context: BrowserContext, address: string): Promise<OpenedPage> {
  const page = await context.newPage()
  const session = await context.newCDPSession(page)
  await session.send('Storage.clearDataForOrigin', {
    origin: address,
    storageTypes: 'local_storage,indexeddb,cache_storage,service_workers',
  })
  await session.detach()
  return collecting(page)
}

function collecting(page: Page): OpenedPage {
  const errors: string[] = []
  page.on('pageerror', (error) => errors.push(error.message))
  return { page, errors }
}

/** Opens a journey in the editor and waits until its picture is painted. */
export async function openEditor(page: Page, address: string, id: string): Promise<void> {
  await page.goto(`${address}/journeys/${id}`)
  await painted(page)
}

/** Shows all pictures of every catalogue, so that tests can choose any; what is folded has a test of its own. */
export function unfoldCatalogues(): void {
  if (!location.protocol.startsWith('http')) return
  for (const label of [
    'Pin',
    'Vehicle',
    'Ready-made letters',
    'Wash',
    'Ready-made looks',
    'Line',
    'Planned line',
    'Easing',
    'Picture in it',
    'Frame',
    'Style',
  ])
    sessionStorage.setItem(`zephyrine-all-${label}`, 'true')
}

/** What `watchStage` writes down in a page. */
interface Watched {
  /** Requests and decodings under way. */
  fetching: number
  /** When the last of them ended, and when the stage was painted last: `performance.now()`. */
  fetched: number
  painted: number
}

/** Writes down in a page when its stage is painted and what is being fetched, before anything else runs there. */
function watchStage(): void {
  const watched: Watched = { fetching: 0, fetched: 0, painted: 0 }
  Object.assign(window, { watched })
  const { getContext } = HTMLCanvasElement.prototype
  // The stage asks for its context each time it is painted.
  HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, ...rest: Parameters<typeof getContext>) {
    if (this.dataset.testid === 'stage-canvas') {
      this.dataset.painted = 'yes'
      watched.painted = performance.now()
    }
    return getContext.apply(this, rest)
  } as typeof getContext
  const counted = async <T>(work: Promise<T>): Promise<T> => {
    watched.fetching++
    try {
      return await work
    } finally {
      watched.fetching--
      watched.fetched = performance.now()
    }
  }
  const plainFetch = window.fetch
  window.fetch = (...request) => counted(plainFetch(...request))
  // What has arrived is still to be decoded, which takes its time on a busy machine.
  const plainDecode = window.createImageBitmap.bind(window) as (...of: unknown[]) => Promise<ImageBitmap>
  window.createImageBitmap = (...of: unknown[]) => counted(plainDecode(...of))
}

/** For so long nothing may happen on a stage at rest, in milliseconds: longer than tiles take from their arrival until they are painted. */
const QUIET = 150

/** Waits until the stage is there and has come to rest: it is painted, nothing is on its way, its labels have their places, and it has not been painted for a while. */
export async function painted(page: Page): Promise<void> {
  const from = await page.evaluate(() => performance.now())
  await page.waitForFunction(
    ([since, quiet]) => {
      const { watched, useNuxtApp } = window as unknown as Page
      interface Page {
        watched: Watched
        useNuxtApp: () => { $pinia: { state: { value: { editor?: { labelsPlaced: boolean } } } } }
      }
      return (
        document.querySelector('[data-testid="stage-canvas"][data-painted]:not([data-rough])') !== null &&
        watched.fetching === 0 &&
        document.fonts.status === 'loaded' &&
        useNuxtApp().$pinia.state.value.editor?.labelsPlaced === true &&
        performance.now() - Math.max(since, watched.fetched, watched.painted) > quiet
      )
    },
    [from, QUIET] as const,
  )
}

/** The stage's pixels, RGBA, with their size. */
export async function stagePixels(page: Page): Promise<{ width: number; height: number; pixels: Uint8Array }> {
  const { width, height, text } = await page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="stage-canvas"]')!
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
    let binary = ''
    for (let i = 0; i < data.length; i += 8192) binary += String.fromCharCode(...data.subarray(i, i + 8192))
    return { width: canvas.width, height: canvas.height, text: btoa(binary) }
  })
  return { width, height, pixels: Uint8Array.from(Buffer.from(text, 'base64')) }
}

export const saved = (page: Page): Promise<void> =>
  page.waitForFunction(() => document.querySelector('[data-testid="save-state"]')?.textContent?.trim() === 'Saved').then(() => undefined)

/** What was downloaded, as text. The browser may run elsewhere, so that its file is not at hand. */
export const downloadedText = async (download: Download): Promise<string> => text(await download.createReadStream())
