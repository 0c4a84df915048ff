import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import type { DrawnMap, MapStyle } from '#core/journey/schema'
import { drawnMapSchema } from '#core/journey/schema'
import { inStyle } from '#core/maps/map-styles'
import { lonWidth } from '#core/maps/region'
import { imageryOf } from '#core/sheet/imagery'
import { JSON_TEXT } from '~/services/json-text'

/** Imagery is offered for maps that show at least so many degrees of longitude: a pixel of it is 10 km wide. */
const IMAGERY_FROM = 25

export const bearsImagery = ({ region }: DrawnMap): boolean => lonWidth(region) >= IMAGERY_FROM

/** The style of the maps that films made of words, tracks and photos begin with: the one that was chosen last. */
export function useMapStyle() {
  const last = useLocalStorage<unknown>('zephyrine-map-style', 'atlas', { serializer: JSON_TEXT })
  const style = computed<MapStyle>(() => drawnMapSchema.shape.style.catch('atlas').parse(last.value))
  /** That style, unless a map would be blurred in it. */
  const styleOn = (map: DrawnMap): MapStyle => (imageryOf(style.value) && !bearsImagery(map) ? 'atlas' : style.value)
  return { styleOn, styled: (map: DrawnMap): DrawnMap => inStyle(map, styleOn(map)), choose: (chosen: MapStyle) => (last.value = chosen) }
}
