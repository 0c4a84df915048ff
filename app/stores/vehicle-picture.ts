import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { editLeg } from '#core/edits/legs'
import type { VehicleChoice } from '#core/journey/schema'
import { vehicleSchema } from '#core/journey/schema'
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

/** A picture on its way to become the vehicle of some legs. */
export const useVehiclePicture = defineStore('vehicle-picture', () => {
  const editor = useEditor()
  const legs = ref<readonly string[]>([])
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

  async function take(file: File, forLegs: readonly string[]) {
    failure.value = ''
    try {
      const picture = await decodePicture(file)
      if (!opaquePart(picture)) throw new ApiError(`“${file.name}” is wholly transparent: choose another picture.`, 0)
      background.value = noticedBackground(picture)
      isCut.value = false
      tolerance.value = USUAL_TOLERANCE
      look.value = { view: 'side', facing: 0, anchor: ANCHORS.side }
      name.value = file.name
      legs.value = forLegs
      original.value = picture
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      failure.value = error.message
    }
  }

  /** Uploads the picture and gives it to its legs. */
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
      const known = legs.value.map((leg) => editor.journey!.travellers.flatMap((who) => who.legs).find(({ id }) => id === leg)?.vehicle)
      const vehicle = vehicleSchema.parse({
        kind: 'image',
        picture: { image: hash, width, height, vector },
        ...look.value,
        ...(known[0] ? { size: known[0].size } : {}),
      })
      editor.edit((journey) => legs.value.reduce((j, leg) => editLeg(j, leg, { vehicle }), journey))
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
    choose: (forLegs: readonly string[]) => chooseFiles(ENDINGS, false, ([file]) => take(file!, forLegs)),
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
