import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { View } from '#core/camera/view'
import { flatView, referenceSize } from '#core/camera/view'
import type { Point } from '#core/geometry/point'
import { fittingView } from '#core/sheet/framing'
import { useCamera } from './camera'
import { useEditor } from './editor'

/** The margin around the sheet when the table shows all of it. */
const TABLE_MARGIN = 0.9

/** What a click or a drag on the stage does. */
export type Tool =
  'select' | 'stop' | 'draw' | 'freehand' | 'follow' | 'control-point' | 'straighten' | 'crop' | 'align' | 'match-track' | 'leg-spot'

const LAYING: ReadonlySet<Tool> = new Set(['stop', 'draw', 'freehand', 'follow'])

/** Which lines are seen over the lens: safe areas, thirds, and what other frame shapes would cut out of it. */
export interface Guides {
  safe: boolean
  thirds: boolean
  crops: boolean
}

/** The view of the stage, and what a click on it does. */
export const useStage = defineStore('stage', () => {
  const editor = useEditor()
  const mode = ref<'lens' | 'table'>('lens')
  const tool = ref<Tool>('select')
  /** Indexes of the chosen nodes of the selected leg's course. */
  const nodes = shallowRef<ReadonlySet<number>>(new Set())
  /** A spot of the selected sheet, in its pixels, whose place on the Earth is being entered. */
  const spot = shallowRef<Point>()
  /** While a sheet is aligned: the ground points clicked so far, a spot of the sheet and its place in turn. */
  const alignment = shallowRef<readonly Point[]>([])
  /** The leg of which a spot is to be clicked, and what gets the place of the click. */
  const legSpot = shallowRef<{ leg: string; use: (at: Point) => void }>()
  const tableView = shallowRef<View>()
  const guides = useLocalStorage<Guides>('zephyrine-guides', { safe: false, thirds: false, crops: false }, { mergeDefaults: true })
  /** The stop whose name field gets the focus. */
  const naming = ref<string>()

  const reference = computed(() => referenceSize(editor.journey?.frame ?? { width: 1920, height: 1080 }))

  /** The whole sheet on the table, or the frame where there is no sheet. */
  function wholeTable(): View {
    const { sheets, camera } = editor.journey!
    const whole = sheets[0] ? fittingView(sheets[0], reference.value) : flatView(camera.centre, camera.zoom)
    return { ...whole, zoom: whole.zoom * TABLE_MARGIN }
  }

  /** What the stage shows: the camera's view through the lens, or the table. */
  const view = computed<View>(() => {
    if (!editor.journey) return flatView({ x: 0, y: 0 }, 1)
    return mode.value === 'lens' ? useCamera().filmed : (tableView.value ?? wholeTable())
  })

  function setMode(next: 'lens' | 'table') {
    mode.value = next
    returns = false
  }
  const toggleMode = () => setMode(mode.value === 'lens' ? 'table' : 'lens')
  function setTool(next: Tool) {
    layOut(next)
    tool.value = next
    spot.value = undefined
    legSpot.value = undefined
    alignment.value = []
  }
  /** Whether clicks on the map make stops or lines: all of it is bright then, and nothing of the camera is in their way. */
  const isLaying = computed(() => LAYING.has(tool.value))
  /** Whether the lens is shown again when the tool is put down. */
  let returns = false
  /** Where the camera films by itself it would move with each stop that is placed: the map is laid on the table meanwhile. */
  function layOut(next: Tool) {
    const lays = LAYING.has(next)
    if (lays && mode.value === 'lens' && editor.journey?.plan.temperament) {
      mode.value = 'table'
      returns = true
    } else if (!lays && returns) {
      mode.value = 'lens'
      returns = false
    }
  }
  const toggleTool = (wanted: Tool) => setTool(tool.value === wanted ? 'select' : wanted)
  /** Lays the tool down, and stays where one is: on the table until the film is played. */
  function layDown() {
    const wasLaidOut = returns
    returns = false
    setTool('select')
    returns = wasLaidOut
  }
  /** Shows the lens, if the map was only laid on the table to place something. */
  function showFilm() {
    if (tool.value === 'select' && returns) setMode('lens')
  }
  /** Lets people click a spot of a leg on the map, once. */
  function pickLegSpot(leg: string, use: (at: Point) => void) {
    setTool('leg-spot')
    legSpot.value = { leg, use }
  }
  function askName(stop: string) {
    naming.value = stop
  }

  watch(
    () => editor.selection,
    () => (nodes.value = new Set()),
  )

  /** What gets the colour that is picked from the picture next; undefined while none is. */
  const picking = shallowRef<(colour: string | undefined) => void>()
  /** Lets people pick a colour from the picture; undefined if they give up. */
  const pickColour = (): Promise<string | undefined> => {
    picked(undefined)
    return new Promise((resolve) => (picking.value = resolve))
  }
  function picked(colour: string | undefined) {
    picking.value?.(colour)
    picking.value = undefined
  }

  function reset() {
    picked(undefined)
    mode.value = 'lens'
    setTool('select')
    tableView.value = undefined
  }

  return {
    mode,
    tool,
    nodes,
    spot,
    legSpot,
    pickLegSpot,
    alignment,
    tableView,
    naming,
    guides,
    reference,
    view,
    setMode,
    toggleMode,
    setTool,
    toggleTool,
    isLaying,
    layDown,
    showFilm,
    askName,
    picking,
    pickColour,
    picked,
    reset,
  }
})
