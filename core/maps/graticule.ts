import { geoGraticule } from 'd3-geo'
import type { MultiLineString } from 'geojson'
import type { DrawnMap } from '../journey/schema'
import { lonWidth } from './region'

/** Lines of latitude and longitude at round degrees, about eight across the map, and a map's width beyond it on each side. */
export function graticuleFor({ region }: DrawnMap): MultiLineString {
  const [width, height] = [lonWidth(region), region.north - region.south]
  const span = Math.max(width, height)
  const step = STEPS.find((s) => span / s <= 10) ?? 30
  if (span > 60) return geoGraticule().step([step, step])()
  const west = region.west - span
  const east = region.west + width + span
  const south = Math.max(-90, region.south - span)
  const north = Math.min(90, region.north + span)
  const rounds = (from: number, to: number) =>
    Array.from({ length: Math.floor(to / step) - Math.ceil(from / step) + 1 }, (_, i) => (Math.ceil(from / step) + i) * step)
  const even = (from: number, to: number) => Array.from({ length: 33 }, (_, i) => from + ((to - from) * i) / 32)
  return {
    type: 'MultiLineString',
    coordinates: [
      ...rounds(west, east).map((lon) => even(south, north).map((lat) => [lon, lat])),
      ...rounds(south, north).map((lat) => even(west, east).map((lon) => [lon, lat])),
    ],
  }
}

const STEPS = [0.0002, 0.0005, 0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10, 15, 20, 30]
