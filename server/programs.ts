import type { ChildProcess, ForkOptions } from 'node:child_process'
import { fork } from 'node:child_process'
import { Worker } from 'node:worker_threads'
import { pathToFileURL } from 'node:url'
import { programPath } from '../scripts/bundles.mjs'

/** Threads and processes of their own: for the server, the command line and the tests they start from the same bundles. */

/** Starts a thread. @param workerData what it finds as its `workerData` */
export const startThread = (name: 'painter' | 'poster', workerData?: unknown): Worker =>
  new Worker(pathToFileURL(programPath(name)), { workerData, execArgv: [] })

/** Starts a process that can be sent messages. @param args its arguments */
export const startProcess = (
  name: 'reader' | 'place-index' | 'land-index',
  args: readonly string[],
  options: ForkOptions = {},
): ChildProcess => fork(programPath(name), args, { execArgv: [], stdio: ['ignore', 'ignore', 'inherit', 'ipc'], ...options })
