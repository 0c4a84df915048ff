import { text } from 'node:stream/consumers'
import type { Browser, BrowserContext, BrowserServer, Download, Page } from 'playwright-core'
import { chromium } from 'playwright-core'

const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

const OPTIONS = { executablePath: '/usr/bin/chromium', args: FLAGS }

export const launchBrowser = (): Promise<Browser> => chromium.launch(OPTIONS)

/** A browser that several processes can use. */
export const launchServer = (): Promise<BrowserServer> => chromium.launchServer(OPTIONS)

export const VIEWPORT = { width: 1280, height: 800 }

/** How long anything that is waited for may take, in milliseconds: several times as long as on a quiet machine. */
const PATIENCE = 90_000

export async function openContext(browser: Browser): Promise<BrowserContext> {
  const context = await browser.newContext({ viewport: VIEWPORT, acceptDownloads: true, locale: 'en-GB' })
  context.setDefaultTimeout(PATIENCE)
  return context
}

export interface OpenedPage {
  page: Page
  /** What has gone wrong in it. */
  errors: string[]
}

/** A page of 1280 x 800 that collects what goes wrong in it. */
export async function openPage(browser: Browser): Promise<OpenedPage> {
  return collecting(await (await openContext(browser)).newPage())
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

/** Waits until the stage's canvas is there and has come to rest: it shows something, and the same for a while. */
export async function painted(page: Page): Promise<void> {
  await page.getByTestId('stage-canvas').waitFor()
  let last = ''
  for (let still = 0, i = 0; still < 3; i++) {
    if (i > 100) throw new Error('The stage did not come to rest.')
    await page.waitForTimeout(120)
    const now = await page.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="stage-canvas"]')!
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
      let sum = 0
      for (let k = 0; k < data.length; k += 4) sum = (sum * 31 + data[k]! + data[k + 1]! * 7 + data[k + 2]! * 13) % 1_000_000_007
      return `${canvas.width}x${canvas.height}:${sum}`
    })
    still = now === last && !now.endsWith(':0') ? still + 1 : 0
    last = now
  }
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
