import { computed, ref } from 'vue'
import { setSheet } from '#core/journey/edits'
import { IMAGE_LIMITS, tooManyBytes } from '#core/sheet/limits'
import { ApiError, uploadImage } from '~/services/api'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** Brings a picture in as the sheet: sends it, waits while the server makes its copies, lays it on the ground. */
export function useSheetImport() {
  const editor = useEditor()
  const stage = useStage()
  const running = ref<{ name: string; share: number }>()
  const problem = ref('')
  let control: AbortController | undefined

  async function importFile(file: File): Promise<void> {
    problem.value = ''
    if (file.size > IMAGE_LIMITS.bytes) {
      problem.value = tooManyBytes(file.name)
      return
    }
    control?.abort()
    const own = new AbortController()
    control = own
    const { opening } = editor
    running.value = { name: file.name, share: 0 }
    try {
      const { hash, width, height } = await uploadImage(file, (share) => running.value && (running.value.share = share), own.signal)
      if (editor.opening !== opening) return
      const isFirst = editor.journey!.sheets.length === 0
      editor.edit((journey) =>
        setSheet(journey, { name: file.name.replace(/\.\w+$/, '') || file.name, image: hash, width, height, wash: null }),
      )
      stage.tableView = undefined
      if (isFirst && editor.journey!.stops.length === 0) stage.tool = 'stop'
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      if (!own.signal.aborted) problem.value = error.message
    } finally {
      if (control === own) running.value = undefined
    }
  }

  function choose() {
    const input = document.createElement('input')
    input.type = 'file'
    input.accept = 'image/png,image/jpeg,image/webp'
    input.onchange = () => {
      const file = input.files?.[0]
      if (file) void importFile(file)
    }
    input.click()
  }

  const words = computed(() => {
    if (!running.value) return ''
    const { name, share } = running.value
    return share < 1 ? `Sending “${name}”: ${Math.round(share * 100)} %` : `Preparing “${name}” …`
  })

  return { running, words, problem, importFile, choose, cancel: () => control?.abort() }
}
