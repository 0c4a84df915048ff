import '../services/zod-without-eval'
import type { Track } from '#core/tracks/track'
import { SwappedError } from '#core/tracks/track'
import { readTrackFile } from '#core/formats/track-file'
import { geoSheet } from '#core/geo/georeference'
import { layTrack, takenPart } from '#core/tracks/lay-track'
import { countOf, simplifySegment } from '#core/tracks/measure'
import type { TrackOrder, TrackReply } from '#core/tracks/messages'
import { trackOrderSchema } from '#core/tracks/messages'
import { overviewOf } from '#core/tracks/overview'
import { JourneyError } from '#core/error'
import { trackCourse } from '#core/courses/track-course'
import { sheetToGround } from '#core/sheet/place'

/** Reads a track file off the main thread, and keeps it for laying. Terminating the worker cancels it. */
const reply = (message: TrackReply) => self.postMessage(message)

let track: Track = { segments: [], waypoints: [], badTimes: 0 }

function answer(order: TrackOrder): void {
  switch (order.kind) {
    case 'read': {
      track = readTrackFile(order.bytes, order.name, order.swap, (share) => reply({ kind: 'progress', share }))
      const overview = overviewOf(track)
      if (!overview) throw new JourneyError(`“${order.name}” has places, but no track or route.`)
      return reply({ kind: 'read', overview })
    }
    case 'count':
      return reply({ kind: 'count', kept: countOf(simplifySegment(takenPart(track, order.options), order.options.metres)) })
    case 'lay': {
      const { toSheet } = geoSheet(order.georeference, order.size)
      const { stops, legs } = layTrack(track, order.options, (at) => {
        const p = toSheet(at)
        return p && sheetToGround(order.place, p)
      })
      const took = legs.flatMap(({ times }) => (times ? [times.at(-1)! - times[0]!] : []))
      const seconds = took.length === legs.length ? took : null
      return reply({
        kind: 'laid',
        stops,
        courses: legs.map(({ points, times, heights }) => trackCourse(points, times, heights, !order.options.reversed)),
        seconds,
      })
    }
  }
}

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  try {
    answer(trackOrderSchema.parse(data))
  } catch (error) {
    reply({ kind: 'failed', message: error instanceof Error ? error.message : String(error), isSwapped: error instanceof SwappedError })
  }
}
