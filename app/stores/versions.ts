import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { compile } from '#core/frame/compile'
import { JourneyError } from '#core/error'
import type { Journey } from '#core/journey/schema'
import type { CompiledJourney } from '#core/trips/compiled'
import type { Version } from '~/services/api'
import { ApiError, deleteVersion, keepVersion, listVersions, readVersion } from '~/services/api'
import { createLabelPlacer } from '~/services/label-placer'
import { useEditor } from './editor'

/** A version that is looked at beside the journey as it is now. */
interface Compared {
  version: Version
  compiled: CompiledJourney
}

/** The versions of the journey that is edited, kept under names, and the one that it is compared with. */
export const useVersions = defineStore('versions', () => {
  const editor = useEditor()
  const journeyId = ref('')
  /** The last one first; undefined until they have been read. */
  const versions = shallowRef<readonly Version[]>()
  const compared = shallowRef<Compared>()
  /** Whether both are seen side by side, rather than one laid over the other as far as `share` of its width. */
  const isBeside = ref(false)
  const share = ref(0.5)
  /** Why something could not be done, for as long as it is shown. */
  const failure = ref('')
  /** A name that none of them has. */
  const nextName = computed(() => {
    const names = new Set(versions.value?.map(({ name }) => name))
    let number = names.size + 1
    while (names.has(`Version ${number}`)) number++
    return `Version ${number}`
  })

  /** Begins with a journey that has been opened. */
  function open(id: string) {
    journeyId.value = id
    versions.value = undefined
    compared.value = undefined
    failure.value = ''
  }

  async function trying<T>(run: () => Promise<T>): Promise<T | undefined> {
    failure.value = ''
    try {
      return await run()
    } catch (error) {
      if (!(error instanceof ApiError || error instanceof JourneyError)) throw error
      failure.value = error.message
      return undefined
    }
  }

  const load = () =>
    trying(async () => {
      const id = journeyId.value
      const found = await listVersions(id)
      if (id === journeyId.value) versions.value = found
    })

  /** Keeps the journey as it is now. */
  const keep = (name: string) =>
    trying(async () => {
      const kept = await keepVersion(journeyId.value, name, editor.document!)
      versions.value = [kept, ...(versions.value ?? [])]
      return kept
    })

  const remove = ({ id }: Version) =>
    trying(async () => {
      const journey = await readVersion(journeyId.value, id)
      await deleteVersion(journeyId.value, id)
      const [removed, left] = [
        versions.value!.find((version) => version.id === id)!,
        versions.value!.filter((version) => version.id !== id),
      ]
      versions.value = left
      if (compared.value?.version.id === id) compared.value = undefined
      editor.notice = {
        text: `“${removed.name}” has been deleted.`,
        action: { title: 'Keep it after all', run: () => void putBack(removed.name, journey) },
      }
    })

  const putBack = (name: string, journey: Journey) =>
    trying(async () => {
      versions.value = [await keepVersion(journeyId.value, name, journey), ...(versions.value ?? [])]
    })

  /** Shows a version at the moment that the journey is seen at. */
  const compare = (version: Version) =>
    trying(async () => {
      const journey = await readVersion(journeyId.value, version.id)
      const placer = createLabelPlacer()
      try {
        const { places } = await placer.find(journey)
        compared.value = { version, compiled: compile(journey, places) }
      } finally {
        placer.close()
      }
    })

  /** Makes the journey what a version is, in one step of undo. */
  const goBackTo = (version: Version) =>
    trying(async () => {
      const journey = await readVersion(journeyId.value, version.id)
      if (!editor.replace(journey)) return
      compared.value = undefined
      editor.notice = { text: `The journey is “${version.name}” again.`, action: { title: 'Undo', run: editor.undo } }
    })

  return { versions, compared, isBeside, share, failure, nextName, open, load, keep, remove, compare, goBackTo }
})
