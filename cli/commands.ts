import type { Command } from './command'
import type { BackupOptions } from './commands/backup-options'
import { backupOptions } from './commands/backup-options'
import type { CheckOptions } from './commands/check-options'
import { checkOptions } from './commands/check-options'
import type { FollowOptions } from './commands/follow-options'
import { followOptions } from './commands/follow-options'
import type { MapOptions } from './commands/map-options'
import { mapOptions } from './commands/map-options'
import type { PackOptions } from './commands/pack-options'
import { packOptions } from './commands/pack-options'
import type { PlacesOptions } from './commands/places-options'
import { placesOptions } from './commands/places-options'
import type { RenderOptions } from './commands/render-options'
import { renderOptions } from './commands/render-options'
import type { SheetOptions } from './commands/sheet-options'
import { sheetOptions } from './commands/sheet-options'
import type { TrackOptions } from './commands/track-options'
import { trackOptions } from './commands/track-options'
import type { TripOptions } from './commands/trip-options'
import { tripOptions } from './commands/trip-options'
import type { WordsOptions } from './commands/words-options'
import { wordsOptions } from './commands/words-options'

/** The commands that work on journeys, maps, tracks and places. */

export const backup: Command<BackupOptions> = {
  ...backupOptions,
  run: async (options, output) => (await import('./commands/back-up')).runBackup(options, output),
}
export const check: Command<CheckOptions> = {
  ...checkOptions,
  run: async (options, output) => (await import('./commands/check-film')).checkFilm(options, output),
}
export const follow: Command<FollowOptions> = {
  ...followOptions,
  run: async (options, output) => (await import('./commands/follow-road')).printRoad(options, output),
}
export const map: Command<MapOptions> = {
  ...mapOptions,
  run: async (options, output) => (await import('./commands/draw-map')).drawMap(options, output),
}
export const pack: Command<PackOptions> = {
  ...packOptions,
  run: async (options, output) => (await import('./commands/pack-journey')).packToFile(options, output),
}
export const places: Command<PlacesOptions> = {
  ...placesOptions,
  run: async (options, output) => (await import('./commands/find-places')).findPlaces(options, output),
}
export const render: Command<RenderOptions> = {
  ...renderOptions,
  run: async (options, output) => (await import('./commands/render-film')).renderProduct(options, output),
}
export const sheet: Command<SheetOptions> = {
  ...sheetOptions,
  run: async (options, output) => (await import('./commands/read-sheet')).readSheet(options, output),
}
export const track: Command<TrackOptions> = {
  ...trackOptions,
  run: async (options, output) => (await import('./commands/read-track')).readTrack(options, output),
}
export const trip: Command<TripOptions> = {
  ...tripOptions,
  run: async (options, output) => (await import('./commands/make-trip')).makeTrip(options, output),
}
export const words: Command<WordsOptions> = {
  ...wordsOptions,
  run: async (options, output) => (await import('./commands/write-words')).writeWords(options, output),
}
