import { useTimeoutFn } from '@vueuse/core'
import type { Ref } from 'vue'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { JourneyError } from '#core/error'
import type { Credit, Region, Taken, TileGrid, TileService } from '#core/journey/schema'
import { regionAround, withMargin } from '#core/maps/region'
import { cameraNeed } from '#core/tiles/camera-need'
import { metresToPixel, ofAspect, regionAbout, regionInPlane, resolutionOf, withSide } from '#core/tiles/grids'
import type { Glimpse, TileOrder } from '#core/tiles/order'
import { planSheet, serviceTilesOf, wholeSheet } from '#core/tiles/sheet-plan'
import { ApiError } from '~/services/api'
import type { BrokenOff, FoundService } from '~/services/tile-services'
import { describeService, discardBrokenOff, glimpseService, listBrokenOff, standInAddress } from '~/services/tile-services'
import { useEditor } from '~/stores/editor'

/** Width of the picture of the region, and of the detail, in pixels. */
const PICTURE = 720
const DETAIL = 320

/** The tiles of a sheet, or why there can be none. */
type Planned = { order: Pick<TileOrder, 'plan' | 'wanted' | 'region'>; count: number; isLimited: boolean } | { problem: string }

/** Waits for a hand to rest, in milliseconds. */
const REST = 250

/** A picture that is asked for again whenever what it shows changes; an answer that has been overtaken is dropped. */
function usePicture(asked: Ref<Glimpse | undefined>, onFound: (found: { side: number; bytes: number }) => void) {
  const address = ref('')
  const isComing = ref(false)
  const problem = ref('')
  let control: AbortController | undefined
  async function ask(glimpse: Glimpse): Promise<void> {
    const own = new AbortController()
    control = own
    try {
      const found = await glimpseService(glimpse, own.signal)
      if (own.signal.aborted) return
      URL.revokeObjectURL(address.value)
      address.value = URL.createObjectURL(found.blob)
      problem.value = ''
      onFound(found)
    } catch (error) {
      if (!own.signal.aborted) problem.value = error instanceof ApiError ? error.message : String(error)
    } finally {
      if (!own.signal.aborted) isComing.value = false
    }
  }
  const { start, stop } = useTimeoutFn(() => asked.value && void ask(asked.value), REST, { immediate: false })
  // Compared by what it says: the same question is not asked again.
  watch(
    () => JSON.stringify(asked.value),
    () => {
      control?.abort()
      stop()
      isComing.value = asked.value !== undefined
      if (asked.value) start()
      else problem.value = ''
    },
  )
  onBeforeUnmount(() => {
    control?.abort()
    URL.revokeObjectURL(address.value)
  })
  return { address, isComing, problem }
}

/**
 * Chooses what is taken of a tile service: its address, its map, the region, and how sharp.
 * @param isOpen nothing is asked of a service while it is not shown
 */
export function useTileService(isOpen: Ref<boolean>) {
  const editor = useEditor()
  const address = ref('')
  const key = ref('')
  const problem = ref('')
  const isLooking = ref(false)
  const found = shallowRef<FoundService>()
  const mapId = ref('')
  const credit = ref<Credit>({ title: '', author: '', licence: '', source: '' })
  const region = ref<Region>()
  const sharp = ref<Taken['sharp']>('camera')
  const level = ref(0)
  /** What a tile has shown: its side in pixels, and the mean of its bytes. */
  const seen = ref<{ side: number; bytes: number }>()
  const brokenOff = shallowRef<BrokenOff[]>([])
  const standIn = ref<string | null>(null)
  let looking: AbortController | undefined

  const service = computed<TileService | undefined>(() => {
    const map = found.value?.maps.find(({ id }) => id === mapId.value)
    return map && (seen.value ? { ...map.service, grid: withSide(map.service.grid, seen.value.side) } : map.service)
  })
  const isCredited = computed(() => credit.value.author.trim() !== '' && credit.value.licence.trim() !== '')

  const need = computed(() => {
    if (!isOpen.value || !service.value || !editor.compiled) return undefined
    try {
      return cameraNeed(editor.compiled, service.value.grid)
    } catch (error) {
      if (error instanceof JourneyError) return undefined
      throw error
    }
  })

  const planned = computed<Planned | undefined>(() => {
    if (!service.value) return undefined
    const { grid } = service.value
    if (sharp.value === 'camera') {
      if (!need.value) return undefined
      const { plan, wanted, count, isLimited } = need.value
      return { order: { plan, wanted, region: need.value.region }, count, isLimited }
    }
    if (!region.value) return undefined
    try {
      const plan = planSheet(grid, region.value, level.value)
      return {
        order: { plan, wanted: null, region: region.value },
        count: serviceTilesOf(grid, plan, wholeSheet(plan)).length,
        isLimited: false,
      }
    } catch (error) {
      if (error instanceof JourneyError) return { problem: error.message }
      throw error
    }
  })

  /** Looks at what there is at the address. Nothing but descriptions is asked for. */
  async function look(): Promise<void> {
    looking?.abort()
    looking = new AbortController()
    const { signal } = looking
    problem.value = ''
    isLooking.value = true
    try {
      const service = await describeService(address.value.trim(), key.value.trim(), signal)
      key.value = ''
      found.value = service
      credit.value = { ...service.credit }
      chooseMap(service.maps[0]!.id)
    } catch (error) {
      if (signal.aborted) return
      found.value = undefined
      problem.value = error instanceof ApiError ? error.message : String(error)
    } finally {
      if (!signal.aborted) isLooking.value = false
    }
  }

  /** Begins with what the camera sees of a map, or with the stops, or with what the map covers. */
  function chooseMap(id: string): void {
    seen.value = undefined
    mapId.value = id
    sharp.value = need.value ? 'camera' : 'region'
    setRegion(framed(regionOfStops() ?? service.value!.covers ?? WORLD))
  }

  /** Begins with the service of a sheet that is to be taken anew. */
  function showTaken({ service, region: of, finest, sharp: how }: Taken, sheetCredit: Credit): void {
    address.value = service.address
    seen.value = undefined
    found.value = {
      is: 'template',
      credit: sheetCredit,
      terms: '',
      maps: [{ id: 'taken', title: service.name, service }],
      unusable: [],
      hasKey: service.address.includes('{key}'),
    }
    mapId.value = 'taken'
    credit.value = { ...sheetCredit }
    region.value = of
    sharp.value = how
    level.value = finest
  }

  const regionOfStops = (): Region | undefined => {
    const places = editor.journey!.stops.flatMap((stop) => stop.place ?? editor.geo?.toLonLat(stop.at) ?? [])
    return places.length > 0 ? withMargin(regionAround(places, 0.02), 0.25) : undefined
  }

  /** The level at which a region fills a film. */
  function fittingLevel(of: Region): number {
    const { grid } = service.value!
    const { left, right } = regionInPlane(grid, of)
    const fitting = grid.levels.findIndex((_, k) => (right - left) / resolutionOf(grid, k) >= editor.journey!.frame.width)
    return fitting < 0 ? grid.levels.length - 1 : fitting
  }

  function setRegion(next: Region): void {
    region.value = next
    level.value = fittingLevel(next)
  }

  const WORLD: Region = { west: -180, south: -60, east: 180, north: 80 }

  /** A region grown to the shape of the film, so that the film can show all of it without its edges. */
  function framed(of: Region): Region {
    const { width, height } = editor.journey!.frame
    return ofAspect(service.value!.grid, of, width / height)
  }

  const isReady = computed(() => isOpen.value && isCredited.value && service.value !== undefined)
  const shownRegion = computed(() => (sharp.value === 'camera' ? need.value?.region : region.value))
  const picture = usePicture(
    computed(() =>
      isReady.value && shownRegion.value ? { service: service.value!, region: shownRegion.value, width: PICTURE, level: null } : undefined,
    ),
    ({ side, bytes }) => {
      if (seen.value?.side !== side) seen.value = { side, bytes }
    },
  )
  /** The finest level where it is looked at most closely, at its own size. */
  const detail = usePicture(
    computed(() => {
      const of = planned.value
      if (!isReady.value || !seen.value || !of || 'problem' in of) return undefined
      const at = sharp.value === 'camera' ? need.value!.closest : aboutMiddle(service.value!.grid, of.order.region, of.order.plan.finest)
      return { service: service.value!, region: at, width: DETAIL, level: of.order.plan.finest }
    }),
    () => undefined,
  )

  /** Metres to the pixel at a level, in the middle of the region. */
  const metresAt = (at: number): number => {
    const { south = 0, north = 0 } = shownRegion.value ?? {}
    return service.value ? metresToPixel(service.value.grid, at, (south + north) / 2) : 0
  }

  /** The order, once all that it needs is there. */
  const order = computed<TileOrder | undefined>(() => {
    const of = planned.value
    if (!isReady.value || !seen.value || !of || 'problem' in of || picture.problem.value !== '') return undefined
    return {
      name: service.value!.name.slice(0, 120) || 'Tiles',
      service: service.value!,
      sharp: sharp.value,
      credit: credit.value,
      ...of.order,
    }
  })

  async function refreshBrokenOff(): Promise<void> {
    brokenOff.value = await listBrokenOff().catch(() => [])
  }
  async function discard(id: string): Promise<void> {
    await discardBrokenOff(id).catch(() => undefined)
    await refreshBrokenOff()
  }

  watch(isOpen, async (open) => {
    if (!open) return looking?.abort()
    problem.value = ''
    standIn.value = await standInAddress().catch(() => null)
    await refreshBrokenOff()
  })

  return {
    address, key, problem, isLooking, look, found, mapId, chooseMap, framed, service, credit, isCredited,
    region, setRegion, regionOfStops, sharp, level, need, planned, seen, picture, detail, metresAt, order,
    brokenOff, discard, standIn, showTaken, WORLD,
  } // prettier-ignore
}

function aboutMiddle(grid: TileGrid, region: Region, level: number): Region {
  const { left, right, top, bottom } = regionInPlane(grid, region)
  return regionAbout(grid, { x: (left + right) / 2, y: (top + bottom) / 2 }, level)
}
