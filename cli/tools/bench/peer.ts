/**
 * What a developer would do instead: headless Chromium shows the same movement, the sheet as an image that is moved by a CSS transform, a line of SVG that grows,
 * names; each frame is captured as a JPEG through the DevTools protocol, and piped into the same encoder with the same settings.
 */
import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { FILM_FORMATS } from '#core/film/formats'
import { wholeFilm } from '#core/film/settings'
import { viewAt } from '#core/camera/view-track'
import { compile } from '#core/frame/compile'
import { pointAt } from '#core/geometry/course'
import type { Journey } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import type { CompiledJourney } from '#core/trips/compiled'
import { ffmpegPath } from '#render/ffmpeg'
import { renderFilm } from '#render/film'
import { line, median, now, rate } from './measure'
import { FROM } from './painting'

const COUNT = 300

/** The page: all on the ground is in one element, in ground units, that the camera moves. */
function pageOf({ journey, travellers, marks, reference }: CompiledJourney): string {
  const [sheet] = journey.sheets
  const map = `data:image/webp;base64,${readFileSync('demo/lantern-isles.webp').toString('base64')}`
  const way = travellers[0]!.legs.map(({ course }) => Array.from({ length: 200 }, (_, i) => pointAt(course, (course.length * i) / 199)))
  const d = `M${way.flat().map(({ x, y }) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}` // prettier-ignore
  const names = marks.map(({ stop }) => `<text x="${stop.at.x}" y="${stop.at.y - 30}" font-size="60">${stop.name}</text>`)
  const { width, height } = sheet!
  return `<!doctype html><style>body{margin:0;overflow:hidden;perspective:${1.5 * reference.height}px}
    #ground{position:absolute;left:50%;top:50%;transform-origin:0 0}#ground>*{position:absolute;left:0;top:0}</style>
    <div id="ground"><img src="${map}" width="${width}" height="${height}"><svg width="${width}" height="${height}">
    <path d="${d}" fill="none" stroke="#d8412f" stroke-width="14" pathLength="1" stroke-dasharray="0 1"/>${names.join('')}</svg></div>`
}

async function capture(compiled: CompiledJourney, out: string): Promise<number> {
  const { journey } = compiled
  const { width, height, rate: fps } = journey.frame
  const { chromium } = await import('playwright-core')
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
  const { encoder } = FILM_FORMATS.mp4
  if (encoder.kind !== 'ffmpeg') throw new Error('MP4 is written by ffmpeg.')
  const input = ['-f', 'image2pipe', '-c:v', 'mjpeg', '-framerate', fps, '-i', 'pipe:0', '-pix_fmt', 'yuv420p']
  const call = ['-loglevel', 'error', '-y', ...input, '-r', fps, ...encoder.output({ quality: 'good', alpha: false }), out]
  try {
    const page = await browser.newPage({ viewport: { width, height } })
    await page.setContent(pageOf(compiled))
    await page.waitForFunction(() => document.images[0]!.complete)
    const session = await page.context().newCDPSession(page)
    const start = now()
    const encoding = spawn(ffmpegPath(), call, { stdio: ['pipe', 'ignore', 'inherit'] })
    const ended = new Promise((resolve) => encoding.on('close', resolve))
    for (let k = FROM; k < FROM + COUNT; k++) {
      const { centre, zoom, bearing, pitch } = viewAt(compiled, frameTime(k, fps))
      const transform = `rotateX(${pitch}deg) scale(${zoom}) rotate(${-bearing}deg) translate(${-centre.x}px,${-centre.y}px)`
      await page.evaluate(
        ([moved, share]) => {
          document.getElementById('ground')!.style.transform = String(moved)
          document.querySelector('path')!.setAttribute('stroke-dasharray', `${share} 1`)
        },
        [transform, (k - FROM) / COUNT] as const,
      )
      const { data } = await session.send('Page.captureScreenshot', { format: 'jpeg', quality: 92 })
      if (!encoding.stdin.write(Buffer.from(data, 'base64'))) await new Promise((resolve) => encoding.stdin.once('drain', resolve))
    }
    encoding.stdin.end()
    await ended
    return now() - start
  } finally {
    await browser.close()
  }
}

/** Whole exports against captures of the same movement, alternating. */
export async function measurePeer(folder: string, journey: Journey): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  const compiled = compile(journey)
  const [own, other]: [number[], number[]] = [[], []]
  try {
    for (let turn = 0; turn < 3; turn++) {
      const start = now()
      const settings = { ...wholeFilm(journey), from: FROM, to: FROM + COUNT }
      await renderFilm({ folder, journey, out: join(scratch, 'film.mp4'), settings })
      own.push(now() - start)
      other.push(await capture(compiled, join(scratch, 'captured.mp4')))
    }
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
  line('whole export, tilted and moving', rate(COUNT, median(own)))
  line('capturing a page with that movement', rate(COUNT, median(other)))
  line('whole export / capturing a page', `${(median(other) / median(own)).toFixed(2)} x`, 'target: 5 times as fast')
}
