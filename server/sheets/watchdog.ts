import { Worker } from 'node:worker_threads'

/** The most resident memory of a process that reads files, in MiB. */
const MOST_MEMORY = 1250

/** The signals by which such a process ends itself when it takes more than it may, so that its parent knows why it ended. */
export const TOO_MUCH_MEMORY = 'SIGUSR2'
export const TOO_MUCH_TIME = 'SIGALRM'

/** How often memory and parent are looked at, in milliseconds: files exist that take a gigabyte in a second. */
const EVERY = 20

const SOURCE = `
const { workerData } = require('node:worker_threads')
setInterval(() => {
  if (process.ppid !== workerData.parent) process.kill(process.pid, 'SIGKILL')
  if (process.memoryUsage.rss() > workerData.bytes) process.kill(process.pid, workerData.tooMuchMemory)
  const { user, system } = process.cpuUsage()
  if (user + system > workerData.time) process.kill(process.pid, workerData.tooMuchTime)
}, workerData.every)`

/**
 * Ends this process when its parent has ended, or it takes too much memory or time. It is done by a thread of its own, as a library that is busy decoding
 * lets nothing else run in the main thread.
 * @param parent the parent's process id
 * @param time the processor time that it may take, in milliseconds; Infinity for no limit
 */
export function watchOver(parent: number, time: number): void {
  const workerData = {
    parent,
    bytes: MOST_MEMORY * 1024 ** 2,
    time: time * 1000,
    tooMuchMemory: TOO_MUCH_MEMORY,
    tooMuchTime: TOO_MUCH_TIME,
    every: EVERY,
  }
  new Worker(SOURCE, { eval: true, workerData }).unref()
}
