import '../services/zod-without-eval'
import { trackCourse } from '#core/courses/track-course'
import { JourneyError } from '#core/error'
import { readTrackFile } from '#core/formats/track-file'
import { geoSheet } from '#core/geo/georeference'
import { sheetToGround } from '#core/sheet/place'
import { layTrack, takenPart } from '#core/tracks/lay-track'
import { countOf, metresOf, simplifySegment } from '#core/tracks/measure'
import { TRACK_CALLS } from '#core/tracks/messages'
import { overviewOf } from '#core/tracks/overview'
import type { Track } from '#core/tracks/track'
import { serve } from './serve'

/** Reads a track file off the main thread, and keeps it for laying. */
let track: Track = { segments: [], waypoints: [], badTimes: 0 }

serve(TRACK_CALLS, {
  read({ bytes, name, swap }, { onProgress }) {
    track = readTrackFile(bytes, name, swap, onProgress)
    const overview = overviewOf(track)
    if (!overview) throw new JourneyError(`“${name}” has places, but no track or route.`)
    return overview
  },
  count(options) {
    const left = simplifySegment(takenPart(track, options), options.metres)
    return { points: countOf(left), metres: metresOf(left) }
  },
  lay({ options, georeference, size, place }) {
    const { toSheet } = geoSheet(georeference, size)
    const { stops, legs } = layTrack(track, options, (at) => {
      const p = toSheet(at)
      return p && sheetToGround(place, p)
    })
    const took = legs.flatMap(({ times }) => (times ? [times.at(-1)! - times[0]!] : []))
    return {
      stops,
      courses: legs.map(({ points, times, heights }) => trackCourse(points, times, heights, !options.reversed)),
      seconds: took.length === legs.length ? took : null,
    }
  },
})
