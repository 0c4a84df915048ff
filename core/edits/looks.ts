import type { JourneyLook } from '../dress/looks'
import { inksOf } from '../journey/lookup'
import type { Ink, Journey, LandmarkMark, Leg, Pin, Stop } from '../journey/schema'
import { resolveVehicle } from '../dress/vehicle'

type Marked = Pick<Stop | LandmarkMark, 'pin' | 'label'>

/**
 * Puts a look on the whole journey: the wash of its lowest map, the lines, vehicles, pins, labels, captions and postcards. What says something about the
 * journey stays: places, texts, sizes, numbers in pins, when things are seen, planned lines, and pictures of one's own.
 */
export function dressJourney(journey: Journey, look: JourneyLook): Journey {
  const { wash, ground, colours, text, paper, writing } = look
  return {
    ...journey,
    ground: { ...journey.ground, colour: ground },
    sheets: journey.sheets.map((sheet, i) => (i === 0 ? { ...sheet, wash } : sheet)),
    travellers: journey.travellers.map((traveller, i) => {
      const colour = colours[i % colours.length]!
      return { ...traveller, colour, legs: traveller.legs.map((leg) => dressedLeg(leg, look, colour)) }
    }),
    stops: journey.stops.map((stop) => ({
      ...stop,
      ...dressedMark(stop, look),
      postcards: stop.postcards.map((card) => ({ ...card, paper, colour: writing })),
    })),
    landmarks: journey.landmarks.map((landmark) => (landmark.kind === 'mark' ? { ...landmark, ...dressedMark(landmark, look) } : landmark)),
    captions: journey.captions.map((caption) => ({
      ...caption,
      style: { ...text, plate: null, ...readable(text), size: caption.style.size },
    })),
  }
}

/** A pin and a label in a look; they keep their sizes and places, and what is written in them. */
const dressedMark = ({ pin, label }: Marked, { colours, pin: look, text }: JourneyLook): Pick<Marked, 'pin' | 'label'> => ({
  pin: { ...pin, ...look, shape: isOwn(pin) ? pin.shape : look.shape, colour: colours[0]! },
  label: { ...label, style: { ...text, size: label.style.size } },
})

/** Whether a pin is not there, or one's own picture. */
const isOwn = ({ shape }: Pin) => shape === 'none' || shape === 'own'

/** Letters that stood on a plate get a halo in its colour, so that large ones can be read without it. */
const readable = ({ plate, halo }: JourneyLook['text']) => ({ halo: halo ?? (plate ? { colour: plate.colour, width: 0.1 } : null) })

function dressedLeg(leg: Leg, { ink, flight }: JourneyLook, colour: string): Leg {
  const coloured = (vehicle: Leg['vehicle']) => (vehicle?.kind === 'catalogue' ? { ...vehicle, colour } : vehicle)
  const vehicle = coloured(leg.vehicle)
  const changes = leg.changes.map((change) => ({ ...change, vehicle: coloured(change.vehicle) }))
  const isFlight = leg.vehicle !== null && resolveVehicle(leg.vehicle).medium === 'air'
  const dressed: Ink = { ...(isFlight ? flight : ink), colour }
  const planned = leg.ink.planned && { ...leg.ink.planned, colour }
  if (inksOf(leg).every(({ line }) => line.kind === 'hidden')) return { ...leg, vehicle, changes }
  return { ...leg, vehicle, changes, ink: { ...dressed, planned }, over: [] }
}
