import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { flatView } from '#core/camera/view'
import { SNAP, useSnapping } from '~/composables/use-snapping'
import { stageSpace } from '~/components/stage/stage-space'
import { useEditor } from '~/stores/editor'
import { journeyOver } from '../support/journeys'

const NO_KEYS = { ctrlKey: false, shiftKey: false }
/** Half a screen pixel to the ground unit: distances on the screen are twice as far on the ground. */
const space = stageSpace(flatView({ x: 500, y: 500 }, 1), { width: 1920, height: 1080 }, 0.5)

beforeEach(() => {
  setActivePinia(createPinia())
  useEditor().open(
    journeyOver([
      [100, 100],
      [900, 100],
    ]),
  )
})

describe('a spot', () => {
  it('comes to lie on a stop that is near on the screen, whatever the zoom', () => {
    const { snap } = useSnapping(() => space)
    const reach = 2 * SNAP
    expect(snap({ x: 100 + reach - 1, y: 100 }, NO_KEYS)).toEqual({ at: { x: 100, y: 100 }, stop: 's0' })
    expect(snap({ x: 100, y: 100 - reach - 1 }, NO_KEYS)).toEqual({ at: { x: 100, y: 100 - reach - 1 } })
  })

  it('comes to lie on the line of another leg, not of its own', () => {
    const { snap } = useSnapping(() => space)
    expect(snap({ x: 500, y: 108 }, NO_KEYS).at).toEqual({ x: 500, y: 100 })
    expect(snap({ x: 500, y: 108 }, NO_KEYS, undefined, 'l1').at).toEqual({ x: 500, y: 108 })
  })

  it('stays where it is with Ctrl', () => {
    const { snap } = useSnapping(() => space)
    expect(snap({ x: 101, y: 100 }, { ctrlKey: true, shiftKey: false })).toEqual({ at: { x: 101, y: 100 } })
  })

  it('keeps to steps of 15 degrees with Shift', () => {
    const { snap } = useSnapping(() => space)
    const { at } = snap({ x: 400, y: 290 }, { ctrlKey: false, shiftKey: true }, { x: 200, y: 200 })
    // 24 degrees are nearest to 30: tan 30 degrees is 0.57735.
    expect((at.y - 200) / (at.x - 200)).toBeCloseTo(0.57735, 5)
  })
})
