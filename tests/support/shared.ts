import type { Browser } from 'playwright-core'
import { chromium } from 'playwright-core'
import { inject } from 'vitest'
import type { TestServer } from './server'
import { serveCopyOf, temporaryFolder } from './server'

/** What setup.ts has made once for all test files. */

/** The built application with a data folder of its own, the demo in it. */
export const startServer = (folder = temporaryFolder()): Promise<TestServer> => serveCopyOf(inject('template'), ['demo'], folder)

/** The server of the files that only look. */
export const sharedServer = (): { address: string; folder: string } => inject('shared')

/** The browser of all files. To close it ends this file's connection, and the contexts that were opened over it. */
export const sharedBrowser = (): Promise<Browser> => chromium.connect(inject('browser'))
