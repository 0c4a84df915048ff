import { nanoid } from 'nanoid'
import { computed, ref, shallowRef } from 'vue'
import { JourneyError } from '#core/error'
import type { DrawnMap, Journey, Sheet } from '#core/journey/schema'
import { sheetSchema } from '#core/journey/schema'
import type { ReplaceBy, SheetImage } from '#core/edits/ground/sheets'
import { addSheet, editSheet, replaceSheet, setCreditLine, setMapNames } from '#core/edits/ground/sheets'
import { hasMapNames } from '#core/journey/lookup'
import { creditOfMap } from '#core/sheet/credits'
import { IMAGE_LIMITS, SHEET_EXTENSIONS, tooManyBytes } from '#core/sheet/limits'
import type { TileOrder } from '#core/tiles/order'
import type { ImageRecord } from '~/services/api'
import { ApiError, drawMap, followImport, uploadImage } from '~/services/api'
import { chooseFiles } from '~/services/choose-files'
import { orderTiles } from '~/services/tile-services'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import { isSystemFile, isWorldFile, SYSTEM_FILES, useWorldFile, WORLD_FILES } from '~/stores/world-file'

/** What is going on, as it is told. */
const STAGES = { sending: 'Sending', preparing: 'Preparing', taking: 'Taking the tiles of' } as const
type Stage = keyof typeof STAGES

/** The possible uses of an imported map if there are sheets already. */
export type Use = { use: 'replace'; id: string; how: ReplaceBy } | { use: 'lay' } | { use: 'trace' }

/** An imported map whose use is still to be chosen. */
export interface Arrival {
  image: SheetImage
  /** The sheet to replace, if that was asked for. */
  replaces: string | undefined
  /** What else changes with it, unless it is only to be traced. */
  also: Edit
}

type Edit = (journey: Journey) => Journey
const nothing: Edit = (journey) => journey

/** Imports maps: uploads files or orders generated maps, waits while the server cuts tiles, then lays them on the ground. */
export function useSheetImport() {
  const editor = useEditor()
  const stage = useStage()
  const worldFile = useWorldFile()
  const running = ref<{ name: string; stage: Stage; share: number }>()
  const problem = ref('')
  const arrival = shallowRef<Arrival>()
  let control: AbortController | undefined

  /** Runs an import and shows its progress; cancels one that was running. Undefined if it failed or was cancelled. */
  async function run(
    name: string,
    begin: (signal: AbortSignal) => Promise<string>,
    work: Stage = 'preparing',
  ): Promise<ImageRecord | undefined> {
    problem.value = ''
    control?.abort()
    const own = new AbortController()
    control = own
    const { opening } = editor
    running.value = { name, stage: 'sending', share: 0 }
    try {
      const id = await begin(own.signal)
      running.value = { name, stage: work, share: 0 }
      const image = await followImport(id, (share) => running.value && (running.value.share = share), own.signal)
      return editor.opening === opening ? image : undefined
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      if (!own.signal.aborted) problem.value = error.message
      return undefined
    } finally {
      if (control === own) running.value = undefined
    }
  }

  /** Imports chosen or dropped files: a map, a world file for it or for the selected sheet, or both. */
  async function importFiles(files: readonly File[], replaces?: string): Promise<void> {
    const beside = files.filter((file) => isWorldFile(file) || isSystemFile(file))
    const map = files.find((file) => !beside.includes(file))
    if (!map) return readWorldFile(beside)
    if (map.size > IMAGE_LIMITS.bytes) {
      problem.value = tooManyBytes(map.name)
      return
    }
    const image = await run(map.name, (signal) => uploadImage(map, (share) => running.value && (running.value.share = share), signal))
    if (!image) return
    const name = map.name.replace(/\.\w+$/, '') || map.name
    const georeference = beside.length > 0 ? await georeferenceOf(beside, image) : image.georeference
    if (image.note && (!georeference || image.georeference)) editor.notice = { text: image.note }
    arrive({ ...imageOf(image), name, georeference }, replaces)
  }

  const imageOf = ({ hash, width, height, vector }: ImageRecord) => ({
    image: hash,
    width,
    height,
    vector,
    credit: sheetSchema.shape.credit.parse({}),
    drawn: null,
    taken: null,
  })

  async function georeferenceOf(files: readonly File[], size: { width: number; height: number }): Promise<Sheet['georeference']> {
    try {
      return (await worldFile.read(files, size)) ?? null
    } catch (error) {
      if (!(error instanceof JourneyError)) throw error
      problem.value = error.message
      return null
    }
  }

  async function readWorldFile(files: readonly File[]): Promise<void> {
    problem.value = ''
    const sheet = editor.selectedSheet ?? editor.journey?.sheets[0]
    if (!sheet) {
      problem.value = `“${files[0]!.name}” is a world file: import its map first, or both together.`
      return
    }
    const georeference = await georeferenceOf(files, sheet)
    if (georeference) editor.edit((journey) => editSheet(journey, sheet.id, { georeference }))
  }

  /** Generates a map, and adds it or replaces the one that it redraws. */
  async function draw(map: DrawnMap, name: string, isNamed: boolean, replaces?: string): Promise<void> {
    const image = await run(name, () => drawMap(map))
    if (!image) return
    arrive({ ...imageOf(image), name, georeference: image.georeference, credit: creditOfMap(map), drawn: map }, replaces, (journey) =>
      hasMapNames(journey) === isNamed ? journey : setMapNames(journey, { countries: isNamed, seas: isNamed }),
    )
  }

  function arrive(image: SheetImage, replaces: string | undefined, also: Edit = nothing): void {
    if (editor.journey!.sheets.length > 0) {
      arrival.value = { image, replaces, also }
      return
    }
    const isBare = editor.journey!.stops.length === 0
    lay(image, false, also)
    if (isBare) stage.setTool('stop')
  }

  function lay(image: SheetImage, tracing: boolean, also: Edit): void {
    const sheet = sheetSchema.parse({ ...image, id: nanoid(10), tracing, opacity: tracing ? 0.5 : 1 })
    if (!editor.edit((journey) => also(addSheet(journey, sheet)))) return
    editor.select({ kind: 'sheet', id: sheet.id })
    stage.tableView = undefined
  }

  /** Uses the imported map as chosen. */
  function settle(use: Use): void {
    const arrived = arrival.value
    arrival.value = undefined
    if (!arrived) return
    const { image, also } = arrived
    if (use.use !== 'replace') return lay(image, use.use === 'trace', use.use === 'trace' ? nothing : also)
    if (editor.edit((journey) => also(replaceSheet(journey, use.id, image, use.how)))) stage.tableView = undefined
  }

  const choose = (replaces?: string) =>
    chooseFiles([...SHEET_EXTENSIONS, ...WORLD_FILES, ...SYSTEM_FILES], true, (files) => importFiles(files, replaces))

  /** Takes a sheet of tiles, and adds it or replaces the one that was taken before. */
  async function take(order: TileOrder, showsCredit: boolean, replaces?: string): Promise<void> {
    const { service, region, sharp, plan, wanted, credit, name } = order
    const from = editor.journey!.sheets.find((sheet) => sheet.id === replaces)?.image
    const image = await run(name, () => orderTiles(order, from), 'taking')
    if (!image) return
    const missing = image.missing ?? 0
    if (missing > 0) {
      const some = missing === 1 ? 'One tile' : `${missing} tiles`
      editor.notice = { text: `${some} did not come: coarser ones show there. “Take more …” in the sheet’s details asks for them again.` }
    }
    const taken = { service, region, finest: plan.finest, sharp, tiles: wanted, missing }
    arrive(
      { ...imageOf(image), name, georeference: image.georeference, credit, taken },
      replaces,
      showsCredit ? (journey) => setCreditLine(journey, true) : nothing,
    )
  }

  const words = computed(() => {
    if (!running.value) return ''
    const { name, stage: at, share } = running.value
    return `${STAGES[at]} “${name}”: ${Math.round(share * 100)} %`
  })

  return { running, words, problem, arrival, importFiles, draw, take, settle, choose, cancel: () => control?.abort() }
}
