import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Photo, VehicleChoice } from '#core/journey/schema'
import type { Background, Rgba } from '#core/picture/cut-out'
import { cutOut, noticedBackground, opaquePart } from '#core/picture/cut-out'
import { ApiError, followImport, uploadImage } from '~/services/api'
import { chooseFiles } from '~/services/choose-files'
import { decodePicture, encodePicture } from '~/services/small-pictures'
import { useEditor } from './editor'

type ImageVehicle = Extract<VehicleChoice, { kind: 'image' }>
export type Look = Pick<ImageVehicle, 'view' | 'facing' | 'anchor'>

const ENDINGS = ['.png', '.webp', '.svg', '.avif', '.jpg', '.jpeg', '.gif']

/** How unlike the background the colours may be that are cut away with it, of 255, and how soft the new edge is, in pixels. */
const USUAL_TOLERANCE = 34
const USUAL_FEATHER = 2

/** Where a vehicle seen in each view rides on its line, as shares of its picture. */
const ANCHORS: Record<Look['view'], Look['anchor']> = { side: { x: 0.5, y: 1 }, upright: { x: 0.5, y: 1 }, above: { x: 0.5, y: 0.5 } }

/** What a picture is for: for each purpose, what is said of it. */
const PURPOSES = {
  vehicle: { title: 'A vehicle of your own', hasView: true },
  pin: { title: 'A pin of your own', hasView: false },
  emblem: { title: 'An emblem on the vehicle', hasView: false },
  carried: { title: 'A picture to carry along', hasView: false },
  stamp: { title: 'A mark of your own', hasView: false },
  landmark: { title: 'A picture on the map', hasView: false },
} as const
type Purpose = keyof typeof PURPOSES

/** A picture on its way into the journey: as a vehicle, a pin, or beside the way. */
export const useOwnPicture = defineStore('own-picture', () => {
  const editor = useEditor()
  const purpose = ref<Purpose>('vehicle')
  /** Puts the picture where it is wanted. */
  let use: ((picture: Photo, look: Look, name: string) => void) | undefined
  const name = ref('')
  const original = shallowRef<Rgba>()
  const background = shallowRef<Background>()
  const isCut = ref(false)
  const tolerance = ref(USUAL_TOLERANCE)
  const look = ref<Look>({ view: 'side', facing: 0, anchor: ANCHORS.side })
  const failure = ref('')
  const share = ref<number>()
  let control: AbortController | undefined

  /** The picture as it will be: cut out if asked for, and without transparent margins. */
  const prepared = computed<Rgba | undefined>(() => {
    if (!original.value) return undefined
    const cut = isCut.value && background.value ? cutOut(original.value, background.value, tolerance.value, USUAL_FEATHER) : original.value
    return trimmed(cut)
  })

  async function take(file: File, why: Purpose, then: NonNullable<typeof use>) {
    failure.value = ''
    try {
      const picture = await decodePicture(file)
      if (!opaquePart(picture)) throw new ApiError(`“${file.name}” is wholly transparent: choose another picture.`, 0)
      background.value = noticedBackground(picture)
      isCut.value = false
      tolerance.value = USUAL_TOLERANCE
      const view = PURPOSES[why].hasView ? 'side' : 'upright'
      look.value = { view, facing: 0, anchor: ANCHORS[view] }
      name.value = file.name
      purpose.value = why
      use = then
      original.value = picture
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      failure.value = error.message
    }
  }

  /** Uploads the picture and puts it where it is wanted. */
  async function finish() {
    if (!prepared.value) return
    const own = (control = new AbortController())
    const { opening } = editor
    share.value = 0
    try {
      const file = await encodePicture(prepared.value, name.value)
      const id = await uploadImage(file, (done) => (share.value = done / 2), own.signal)
      const { hash, width, height, vector } = await followImport(id, (done) => (share.value = 0.5 + done / 2), own.signal)
      if (editor.opening !== opening) return
      use?.({ image: hash, width, height, vector }, look.value, name.value.replace(/\.[^.]*$/, '').slice(0, 120))
      close()
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      if (!own.signal.aborted) failure.value = error.message
    } finally {
      share.value = undefined
    }
  }

  function close() {
    control?.abort()
    original.value = undefined
  }

  return {
    title: computed(() => PURPOSES[purpose.value].title),
    hasView: computed(() => PURPOSES[purpose.value].hasView),
    name,
    original,
    background,
    isCut,
    tolerance,
    look,
    prepared,
    failure,
    share,
    finish,
    close,
    /** Another view is looked at from another side, so the vehicle rides elsewhere on its line. */
    setView: (view: Look['view']) => (look.value = { ...look.value, view, anchor: ANCHORS[view] }),
    /** Asks for a picture. @param then what to do with it once it is here: with how it is looked at, and the name of its file */
    choose: (why: Purpose, then: NonNullable<typeof use>) => chooseFiles(ENDINGS, false, ([file]) => take(file!, why, then)),
  }
})

function trimmed({ width, height, pixels }: Rgba): Rgba {
  const part = opaquePart({ width, height, pixels })
  if (!part || (part.width === width && part.height === height)) return { width, height, pixels }
  const inner = new Uint8ClampedArray(4 * part.width * part.height)
  for (let y = 0; y < part.height; y++) {
    const from = 4 * ((part.top + y) * width + part.left)
    inner.set(pixels.subarray(from, from + 4 * part.width), 4 * y * part.width)
  }
  return { width: part.width, height: part.height, pixels: inner }
}
