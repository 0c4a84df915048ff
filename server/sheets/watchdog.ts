import { Worker } from 'node:worker_threads'

/** The most resident memory of a process that reads files, in MiB. */
export const MOST_MEMORY = 1250

/** The signal by which such a process ends itself when it takes more, so that its parent knows why it ended. */
export const TOO_MUCH_MEMORY = 'SIGUSR2'

/** How often memory and parent are looked at, in milliseconds: files exist that take a gigabyte in a second. */
const EVERY = 20

const SOURCE = `
const { workerData } = require('node:worker_threads')
setInterval(() => {
  if (process.ppid !== workerData.parent) process.kill(process.pid, 'SIGKILL')
  if (process.memoryUsage.rss() > workerData.bytes) process.kill(process.pid, workerData.signal)
}, workerData.every)`

/**
 * Ends this process when its parent has ended or it takes too much memory. It is done by a thread of its own, as a library that is busy decoding
 * lets nothing else run in the main thread.
 * @param parent the parent's process id
 */
export function watchOver(parent: number): void {
  const workerData = { parent, bytes: MOST_MEMORY * 1024 ** 2, signal: TOO_MUCH_MEMORY, every: EVERY }
  new Worker(SOURCE, { eval: true, workerData }).unref()
}
