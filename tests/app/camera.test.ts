/** What a change of a view says it changes, and the way to have it from the play position on instead. */
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { flatView } from '#core/camera/view'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { demo } from '../support/journeys'

/** The demo without any shot, at a time in seconds. */
function opened(seconds: number) {
  const editor = useEditor()
  editor.open({ ...demo(), shots: [] })
  usePlayback().goToTime(seconds)
  return { editor, camera: useCamera(), playback: usePlayback() }
}

describe('a view that is changed', () => {
  beforeEach(() => setActivePinia(createPinia()))

  it('says that the opening view lasts to the film’s end, and is had from there on instead in one step', () => {
    const { editor, camera, playback } = opened(4)
    const before = editor.journey!
    // Zooming is one gesture of several steps.
    for (const zoom of [1.2, 1.5, 2]) camera.look((view) => ({ ...view, zoom: before.camera.zoom * zoom }), 'zoom')
    expect(editor.notice?.text).toBe('This changes the opening view, which lasts to the film’s end.')
    const { zoom } = editor.journey!.camera
    expect(zoom).toBeCloseTo(2 * before.camera.zoom, 9)
    editor.notice!.action!.run()
    expect(editor.journey!.camera).toEqual(before.camera)
    expect(editor.journey!.shots).toHaveLength(1)
    expect(editor.journey!.shots[0]).toMatchObject({ kind: 'free', view: { zoom } })
    // What is seen there is what was made; what was seen before is as it was.
    expect(playback.time).toBeCloseTo(4, 1)
    expect(camera.view.zoom).toBeCloseTo(zoom, 6)
    playback.goToTime(0)
    expect(camera.view.zoom).toBeCloseTo(before.camera.zoom, 6)
  })

  it('says nothing at the film’s beginning, and of a shot only once', () => {
    const { editor, camera, playback } = opened(0)
    camera.look((view) => ({ ...view, zoom: 1.5 }))
    expect(editor.notice).toBeUndefined()
    playback.goToTime(6)
    camera.keep()
    editor.select({ kind: 'journey' })
    camera.look((view) => ({ ...view, bearing: 20 }), 'turn')
    const told = editor.notice?.text
    editor.notice = undefined
    camera.look((view) => ({ ...view, bearing: 40 }), 'turn again')
    expect(told).toMatch(/^This changes “.+”, which lasts to the film’s end\.$/)
    expect(editor.notice).toBeUndefined()
  })

  it('that fills the frame leaves the shots alone that are there', () => {
    const { editor, camera, playback } = opened(6)
    camera.keep()
    const [kept] = editor.journey!.shots
    playback.goToTime(12)
    camera.show(flatView({ x: 900, y: 500 }, 1.7))
    expect(editor.journey!.shots).toHaveLength(2)
    expect(editor.journey!.shots).toContainEqual(kept)
    expect(camera.view.zoom).toBeCloseTo(1.7, 6)
  })
})
