import { useTimeoutFn } from '@vueuse/core'
import equal from 'fast-deep-equal'
import type { Ref } from 'vue'
import { computed, onMounted, ref, watch } from 'vue'
import { projectionOf } from '#core/camera/projection'
import type { View } from '#core/camera/view'
import { exposureAt } from '#core/frame/exposure'
import { facesOf } from '#core/frame/faces'
import { frameAt, onTable, withTracing } from '#core/frame/frame-at'
import type { Size } from '#core/geometry/size'
import { levelsFor } from '#core/sheet/mosaic'
import { drawnAt } from '#core/sheet/pen'
import type { CompiledJourney } from '#core/trips/compiled'
import { HOUSE_FACE } from '#core/type/measure'
import { createPainter } from '#draw/painter'
import { createBrowserStudio } from '~/services/browser-studio'
import { createExposedPicture } from '~/services/exposed-picture'
import { loadFaces } from '~/services/frame-fonts'
import { createGradedCanvas } from '~/services/graded-canvas'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'

/** A view at rest is painted finely, which may take many times as long, only when it has been the same for so many milliseconds. */
const FINE_AFTER = 100

/**
 * Keeps the picture of the stage as the journey, the time and the view are: at once while they change, and at rest as fine as the film has it.
 * @param source the journey that is seen, ready for any moment
 * @param size of the stage, in CSS pixels
 * @param onPainted called whenever the picture is another one
 * @returns `isRough`: whether a finer picture is still to come
 */
export function useStagePicture(
  canvas: Readonly<Ref<HTMLCanvasElement | null>>,
  source: () => CompiledJourney | undefined,
  size: Readonly<Ref<Size>>,
  onPainted: () => void,
) {
  const editor = useEditor()
  const playback = usePlayback()
  const stage = useStage()
  const ready = ref(false)
  const isRough = ref(false)
  let dirty = false
  /** The view that has been painted finely. */
  let fine: View | undefined

  const studio = createBrowserStudio(anew)
  const painter = createPainter(studio)
  const exposed = createExposedPicture(painter)
  const graded = createGradedCanvas(anew, (text) => (editor.notice = { text }))
  const refine = useTimeoutFn(() => paint(true), FINE_AFTER, { immediate: false })

  function forget() {
    fine = undefined
    painter.invalidate()
  }

  /** Paints all of it anew, as something has come that was missing. */
  function anew() {
    forget()
    repaint()
  }

  /** Paints once before the next screen refresh, however often it is asked to. */
  function repaint() {
    if (dirty) return
    dirty = true
    requestAnimationFrame(() => {
      dirty = false
      paint()
    })
  }

  /** Gives the canvas as many pixels as the screen has there. @returns output pixels per reference pixel */
  function fit(target: HTMLCanvasElement, { reference }: CompiledJourney): number {
    const width = Math.round(size.value.width * window.devicePixelRatio)
    const scale = width / reference.width
    const height = Math.round(reference.height * scale)
    if (target.width !== width || target.height !== height) {
      Object.assign(target, { width, height })
      forget()
    }
    return scale
  }

  function paint(isFine = false) {
    const target = canvas.value
    const compiled = source()
    if (!target || !compiled || !ready.value) return
    const scale = fit(target, compiled)
    const frame = withTracing(frameAt(compiled, playback.time), compiled)
    const isFilm = stage.mode === 'lens'
    const shown = isFilm ? frame : onTable(frame, stage.view)
    const isSlow = shown.view.pitch > 0 && !shown.isMoving
    const isQuick = isSlow && (playback.playing || !(isFine || equal(fine, shown.view)))
    const { grade, shutter } = compiled.journey
    exposed.cancel()
    const context = isFilm && grade ? graded.contextFor(grade, target, scale) : target.getContext('2d')!
    const parts = painter.paint(shown, context, scale, { isRough: isQuick })
    if (isFilm && grade) graded.show(target, parts, playback.frame)
    if (!isQuick) fine = shown.view
    const isBlurred = isFilm && shutter > 0 && !playback.playing
    isRough.value = isQuick || isBlurred
    if (isBlurred && isFine) void expose(target, compiled, scale)
    else if (isRough.value && !playback.playing) refine.start()
    onPainted()
  }

  /** Paints the present picture as the shutter sees it. */
  async function expose(target: HTMLCanvasElement, compiled: CompiledJourney, scale: number) {
    const moments = exposureAt(compiled, playback.time)
    if (moments.length > 1) {
      const { width, height } = target
      const image = await exposed.paint(
        moments.map((moment) => withTracing(moment, compiled)),
        { width, height },
        scale,
      )
      if (!image) return
      if (compiled.journey.grade) graded.show(target, [{ x: 0, y: 0, width, height }], playback.frame, image)
      else target.getContext('2d')!.putImageData(image, 0, 0)
    }
    isRough.value = false
    onPainted()
  }

  /** Asks for the tiles of the first picture, which come while the letters are loaded. */
  function askForTiles() {
    const compiled = source()
    if (!compiled) return
    const frame = frameAt(compiled, playback.time)
    const { view, items } = stage.mode === 'table' ? onTable(frame, stage.view) : frame
    const projection = projectionOf(view, compiled.reference)
    const scale = Math.round(size.value.width * window.devicePixelRatio) / compiled.reference.width
    for (const item of items)
      if (item.kind === 'sheet' && !projection.bent) {
        const sheet = drawnAt(item.sheet, scale)
        for (const { tiles } of levelsFor(sheet, item.edge, projection, scale)) for (const tile of tiles) studio.tile(sheet, tile)
      }
  }

  onMounted(async () => {
    askForTiles()
    await loadFaces([HOUSE_FACE])
    ready.value = true
  })

  /** The faces of the journey's texts, as a key that changes only with them. */
  const faces = computed(() => {
    const journey = source()?.journey
    return journey ? [...new Set(facesOf(journey).map(({ family, weight }) => `${family} ${weight}`))].sort().join() : ''
  })
  watch(
    faces,
    async () => {
      const journey = source()?.journey
      if (!journey) return
      await loadFaces(facesOf(journey))
      anew()
    },
    { immediate: true },
  )
  watch([source, () => playback.time, () => playback.playing, () => stage.view, size, ready], repaint)

  return { isRough }
}
