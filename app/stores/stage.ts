import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { View } from '#core/camera/view'
import { fittingView, referenceSize } from '#core/camera/view'
import { useEditor } from './editor'

/** Room left round the sheet when the table shows all of it. */
const TABLE_MARGIN = 0.9

/** How the stage is looked at, and what a click on it does. */
export const useStage = defineStore('stage', () => {
  const editor = useEditor()
  const mode = ref<'lens' | 'table'>('lens')
  const tool = ref<'select' | 'stop'>('select')
  const tableView = shallowRef<View>()

  const reference = computed(() => referenceSize(editor.journey?.frame ?? { width: 1920, height: 1080 }))

  /** The whole sheet on the table, or the frame where there is no sheet. */
  function wholeTable(): View {
    const { sheets, camera } = editor.journey!
    const whole = sheets[0] ? fittingView(sheets[0], reference.value) : camera
    return { ...whole, zoom: whole.zoom * TABLE_MARGIN }
  }

  /** What the stage shows: the camera's view through the lens, or the table. */
  const view = computed<View>(() => {
    if (!editor.journey) return { centre: { x: 0, y: 0 }, zoom: 1 }
    return mode.value === 'lens' ? editor.journey.camera : (tableView.value ?? wholeTable())
  })

  function setMode(next: 'lens' | 'table') {
    mode.value = next
  }
  const toggleMode = () => setMode(mode.value === 'lens' ? 'table' : 'lens')
  const toggleTool = () => (tool.value = tool.value === 'stop' ? 'select' : 'stop')

  function reset() {
    mode.value = 'lens'
    tool.value = 'select'
    tableView.value = undefined
  }

  return { mode, tool, tableView, reference, view, setMode, toggleMode, toggleTool, reset }
})
