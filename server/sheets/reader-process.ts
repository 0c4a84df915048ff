import { readFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { readCube } from '#core/colour/cube'
import { JourneyError } from '#core/error'
import type { Answer, Built, ImportJob, Job, KeptJob, TakeJob } from './job'
import { jobSchema } from './job'
import type { Client } from '../tiles/client'
import { watchOver } from './watchdog'

/**
 * A separate process that reads files from outside: crashes and endless loops do not harm the server, it can be stopped at
 * any moment, and its memory is released when it ends. What a job needs is loaded for it alone: all of it would take longer than to read a photo.
 */
watchOver(Number(process.argv[2]), Number(process.argv[3]))

/** Once the server is gone there is nobody to tell, and nothing left to do. */
const answer = (message: Answer) => process.send!(message, undefined, undefined, (error) => error && process.exit())

async function build(job: ImportJob, onProgress: (share: number) => void): Promise<Built> {
  switch (job.format) {
    case 'svg':
      return (await import('./drawing')).importSvg(job, onProgress)
    case 'pdf':
      return (await import('./pdf')).importPdf(job, onProgress)
    case 'map':
      return (await import('../maps/import-map')).importMap(job)
    case 'mbtiles':
      return (await import('./mbtiles')).importMbtiles(job, onProgress)
    case 'pmtiles':
      return (await import('./pmtiles')).importPmtiles(job, onProgress)
    default:
      return (await import('./raster')).importRaster(job, onProgress)
  }
}

/** How often progress is reported, in milliseconds. */
const REPORT_EVERY = 100

/** Reports progress, but not more often than need be. */
function reporter(): (share: number) => void {
  let last = 0
  return (share) => {
    if (Date.now() - last < REPORT_EVERY) return
    last = Date.now()
    answer({ is: 'progress', share: Math.min(1, share) })
  }
}

async function runImport(job: ImportJob): Promise<void> {
  const built = await build(job, reporter())
  answer({ is: 'built', built, peakMiB: peakMiB() })
}

/** Peak memory of this process. Taken from the system if it gives the figure for the process alone; otherwise it includes the parent's memory at the fork. */
function peakMiB(): number {
  let kib = process.resourceUsage().maxRSS
  try {
    kib = Number(/^VmHWM:\s+(\d+) kB$/m.exec(readFileSync('/proc/self/status', 'utf8'))![1])
  } catch {
    // Not Linux.
  }
  return Math.ceil(kib / 1024)
}

/** Does something with a client for a service, and closes its cache. */
async function asking<T>({ key, cache }: { key?: string; cache: string }, run: (client: Client) => Promise<T>): Promise<T> {
  const [{ openAnswerCache }, { createClient }] = await Promise.all([import('../tiles/answer-cache'), import('../tiles/client')])
  const answers = openAnswerCache(cache)
  try {
    return await run(createClient(key, answers, new AbortController().signal))
  } finally {
    answers.close()
  }
}

async function runTake({ out, service, plan, wanted, ...job }: TakeJob): Promise<void> {
  const onProgress = reporter()
  const { takeTiles } = await import('../tiles/take')
  answer({ is: 'taken', ...(await asking(job, (client) => takeTiles(out, service, plan, wanted, client, onProgress))) })
}

async function runKept(job: KeptJob): Promise<Answer> {
  const { id } = job
  switch (job.do) {
    case 'describe': {
      const { describe } = await import('../tiles/describe')
      return { is: 'described', id, described: await asking(job, (client) => describe(job.address, job.key, client)) }
    }
    case 'glimpse': {
      const { glimpse } = await import('../tiles/glimpse')
      const { webp, ...rest } = await asking(job, (client) => glimpse(job.glimpse, client))
      return { is: 'glimpsed', id, webp: webp.toString('base64'), ...rest }
    }
    case 'draw':
      await (await import('./vector-tiles')).drawTiles(job)
      return { is: 'drawn', id }
    case 'preview': {
      const { webp, coasts } = await (await import('../maps/draw')).drawPreview(job.map)
      return { is: 'previewed', id, webp: webp.toString('base64'), coasts }
    }
  }
}

/** The whole machine may be used for one picture, and nothing is read twice. */
async function setUpSharp(): Promise<void> {
  const { default: sharp } = await import('sharp')
  sharp.concurrency(cpus().length)
  sharp.cache(false)
}

async function runJob(job: Job): Promise<void> {
  if (job.do !== 'font' && job.do !== 'lut') await setUpSharp()
  if (job.do === 'import') return runImport(job)
  if (job.do === 'take') return runTake(job)
  if (job.do === 'font') {
    const { parseFont } = await import('../fonts/parse-font')
    return void answer({ is: 'font', font: parseFont(readFileSync(job.path), job.name) })
  }
  if (job.do === 'lut') {
    readCube(readFileSync(job.path, 'utf8'), job.name)
    return void answer({ is: 'lut' })
  }
  answer(await runKept(job))
}

process.on('message', (message) => {
  const job = jobSchema.parse(message)
  const work = runJob(job)
  work.catch((error: unknown) => {
    const expected = error instanceof JourneyError
    answer({
      is: 'failed',
      id: 'id' in job ? job.id : undefined,
      message: error instanceof Error ? error.message : String(error),
      expected,
    })
  })
})
// Left alone, it ends.
process.on('disconnect', () => process.exit())
