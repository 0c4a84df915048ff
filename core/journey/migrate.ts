import { usualLayover } from '../pace/layovers'

/** A journey document before it is checked. */
type Raw = Record<string, unknown>

/** Entry k brings a document of version k + 1 to the next. It handles only what that version could hold; errors are found by the check that follows. */
const MIGRATIONS: readonly ((document: Raw) => Raw)[] = [
  // Version 2: several sheets, each with an id; the ground is more than a colour.
  ({ ground, sheets, ...rest }) => ({
    ...rest,
    ...(ground === undefined ? {} : { ground: typeof ground === 'string' ? { colour: ground } : ground }),
    ...(sheets === undefined ? {} : { sheets: Array.isArray(sheets) ? sheets.map(withId) : sheets }),
  }),
  // Version 3: drawn courses may have gaps, stops may have postcards; neither can be in a document of version 2.
  (document) => document,
  // Version 4: layovers that nobody set have no value; recorded times never fall; control points speak for their plane.
  ({ travellers, sheets, ...rest }) => ({
    ...rest,
    ...(sheets === undefined ? {} : { sheets: Array.isArray(sheets) ? sheets.map(inAnyPlane) : sheets }),
    ...(travellers === undefined
      ? {}
      : { travellers: Array.isArray(travellers) ? travellers.map((who) => free(who, rest.seconds)) : travellers }),
  }),
  // Version 5: the camera may turn and tilt, and views may follow the first; a document of version 4 has one that does neither.
  (document) => document,
  // Version 6: lines and vehicles are of several kinds, each with fields of its own; a node's gap is called a break.
  ({ travellers, ...rest }) => ({
    ...rest,
    ...(travellers === undefined
      ? {}
      : {
          travellers: Array.isArray(travellers)
            ? travellers.map((who: unknown) => (isRaw(who) && Array.isArray(who.legs) ? { ...who, legs: who.legs.map(inKinds) } : who))
            : travellers,
        }),
  }),
  // Version 7: a label's letters have a style of their own, and it may look for its place itself.
  ({ stops, ...rest }) => ({
    ...rest,
    ...(stops === undefined ? {} : { stops: Array.isArray(stops) ? stops.map(withLetters) : stops }),
  }),
  // Version 8: a stop may have several postcards, and they may lie anywhere.
  ({ stops, ...rest }) => ({
    ...rest,
    ...(stops === undefined ? {} : { stops: Array.isArray(stops) ? stops.map(withCards) : stops }),
  }),
  // Version 9: travel times can be shared out in other ways than by length.
  ({ shareExponent, ...rest }) => ({ ...rest, ...(shareExponent === undefined ? {} : { share: { exponent: shareExponent } }) }),
  // Version 10: the camera follows shots of several kinds; a document of version 9 had views alone.
  ({ views, ...rest }) => ({
    ...rest,
    ...(views === undefined
      ? {}
      : { shots: Array.isArray(views) ? views.map((view: unknown) => (isRaw(view) ? { kind: 'free', ...view } : view)) : views }),
  }),
  // Version 11: shots of the globe, and the sky round it; neither can be in a document of version 10.
  (document) => document,
]

const isRaw = (value: unknown): value is Raw => typeof value === 'object' && value !== null

/** A traveller of version 3. New stops got the layover usual for the film's length; one that still equals it was not set by hand. */
function free(traveller: unknown, seconds: unknown): unknown {
  if (!isRaw(traveller) || !Array.isArray(traveller.visits)) return traveller
  const { visits } = traveller
  const usual = (i: number) => usualLayover(i, visits.length, Number(seconds))
  return {
    ...traveller,
    visits: visits.map((visit: unknown, i) => (isRaw(visit) && visit.layover === usual(i) ? { ...visit, layover: null } : visit)),
    ...(Array.isArray(traveller.legs) ? { legs: traveller.legs.map(rising) } : {}),
  }
}

/** A sheet of version 3, where a map with control points was assumed to be in Mercator's projection unless set otherwise. */
function inAnyPlane(sheet: unknown): unknown {
  if (!isRaw(sheet) || !isRaw(sheet.georeference) || sheet.georeference.kind !== 'points') return sheet
  const { plane } = sheet.georeference
  return plane === 'degrees' ? sheet : { ...sheet, georeference: { ...sheet.georeference, plane: null } }
}

/** A leg along a track of version 3: times that go back become standstills. */
function rising(leg: unknown): unknown {
  if (!isRaw(leg) || !isRaw(leg.course) || typeof leg.course.times !== 'string') return leg
  let last = 0
  const times = leg.course.times.split(' ').map((word) => {
    if (Number(word) < last) return String(last)
    last = Number(word)
    return word
  })
  return { ...leg, course: { ...leg.course, times: times.join(' ') } }
}

/** A leg of version 5, whose ink had the fields of all lines at once. */
function inKinds(leg: unknown): unknown {
  if (!isRaw(leg)) return leg
  const { ink, vehicle, course, ...rest } = leg
  return {
    ...rest,
    ...(ink === undefined ? {} : { ink: isRaw(ink) ? lineInKinds(ink) : ink }),
    ...(vehicle === undefined ? {} : { vehicle: isRaw(vehicle) ? { kind: 'catalogue', ...vehicle } : vehicle }),
    ...(course === undefined
      ? {}
      : { course: isRaw(course) && Array.isArray(course.nodes) ? { ...course, nodes: course.nodes.map(withBreak) } : course }),
  }
}

function lineInKinds({ line = 'solid', dash, gap, ...rest }: Raw): Raw {
  const space = gap === undefined ? {} : { space: gap }
  if (line === 'dashed') return { ...rest, line: { kind: line, ...(dash === undefined ? {} : { dash }), ...space } }
  return { ...rest, line: line === 'dotted' ? { kind: line, ...space } : { kind: line } }
}

function withBreak(node: unknown): unknown {
  if (!isRaw(node) || !('gap' in node)) return node
  const { gap, ...rest } = node
  return { ...rest, break: gap }
}

/** A stop of version 6, whose label was always on a side of its pin, to the right where nothing was said. */
function withLetters(stop: unknown): unknown {
  if (!isRaw(stop)) return stop
  const { label = {}, ...rest } = stop
  if (!isRaw(label)) return stop
  const { shown, side = 'right', size, colour, halo, ...unknown } = label
  const set = (fields: Raw) => Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined))
  return {
    ...rest,
    label: {
      ...unknown,
      ...set({ shown }),
      place: { kind: 'side', side },
      style: set({ size, colour, halo: halo === undefined ? undefined : { colour: halo } }),
    },
  }
}

/** A stop of version 7, which had one postcard at most, always on a side of its pin. */
function withCards(stop: unknown): unknown {
  if (!isRaw(stop) || !('postcard' in stop)) return stop
  const { postcard, ...rest } = stop
  if (!isRaw(postcard)) return { ...rest, postcards: postcard === null ? [] : postcard }
  const { side, ...card } = postcard
  return { ...rest, postcards: [{ id: 'card', ...card, ...(side === undefined ? {} : { place: { kind: 'side', side } }) }] }
}

const withId = (sheet: unknown): unknown => (typeof sheet === 'object' && sheet !== null ? { id: 'sheet', ...sheet } : sheet)

/** Brings a document of an earlier version to the present one. */
export function migrate(document: Raw, from: number): Raw {
  return { ...MIGRATIONS.slice(from - 1).reduce((doc, step) => step(doc), document), version: MIGRATIONS.length + 1 }
}
