/** Posters: the pictures of journeys in the list. */
import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { setFrame } from '#core/edits/journey'
import { paintPoster } from '#render/poster'
import { journeyOver } from '../support/journeys'
import { temporaryFolder } from '../support/server'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

describe('a poster', () => {
  it.each([
    [1920, 1080, 720, 405],
    [1080, 1920, 720, 1280],
    // 720 wide it would be higher than a WebP can be: 16 383 pixels (Google, WebP Container Specification).
    [64, 4096, 20, 1280],
    [4096, 64, 720, 11],
  ])('of a frame of %d by %d is %d by %d', async (width, height, across, down) => {
    const journey = journeyOver([[200, 300], [900, 500]], {}, 4) // prettier-ignore
    const out = join(folder, `${width}.webp`)
    await paintPoster(folder, setFrame(journey, { width, height, rate: '30/1' }), out)
    expect(await sharp(out).metadata()).toMatchObject({ format: 'webp', width: across, height: down })
    expect(existsSync(`${out}.part`)).toBe(false)
  })
})
