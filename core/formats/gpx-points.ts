/**
 * Reads points of a GPX track that are written in the plain way, as nearly all are, without a parser of XML: in a third of its time. What is written
 * in another way, with comments, CDATA, entities or deeper elements, is left to the parser. A point is taken only where it is well-formed.
 */

/** Words without markup, entities or characters that XML does not have. All repeats are bounded, so that no file can make matching take long. */
const WORDS = String.raw`[^<>&\0-\x08\x0b\x0c\x0e-\x1f]{0,200}`
const NAME = String.raw`[A-Za-z_][\w:.-]{0,60}`
const SPACE = String.raw`[ \t\r\n]{0,80}`
const TIME = `<time>(${WORDS})</time>${SPACE}`
const HEIGHT = `<ele>(${WORDS})</ele>${SPACE}`

/** Elements without attributes that hold only text, and are neither times nor heights; `group` is the number of the group that holds the name. */
const leaf = (group: number) => `<(?!(?:${NAME}:)?(?:time|ele)>)(${NAME})>${WORDS}</\\${group}>${SPACE}`
/** Extensions hold leaves, or elements of leaves; three groups. */
const extensions = (group: number) =>
  `<extensions>${SPACE}(?:${leaf(group)}|<(${NAME})>${SPACE}(?:${leaf(group + 2)}){1,20}</\\${group + 1}>${SPACE}){0,20}</extensions>${SPACE}`

const ATTRIBUTE = String.raw`[ \t\r\n]{1,80}(lat|lon)="([-+.\deE]{1,40})"`

/** Its groups: a name and its value, twice, the height, the name of a leaf, the time, and more names. Numbered, as named ones cost a third more. */
const POINT = new RegExp(
  `${SPACE}<trkpt${ATTRIBUTE}${ATTRIBUTE}${SPACE}>${SPACE}` +
    `(?:${HEIGHT})?(?:${leaf(6)}){0,20}(?:${TIME}(?:${leaf(8)}){0,20})?(?:${extensions(9)})?</trkpt>`,
  'y',
)

/**
 * Reads points one after another from where a track's segment has begun, or a point has ended.
 *
 * @param take is given each point in degrees, and its time and its height as they are written; empty if it has none
 * @returns the position of the first thing that is not such a point, or of the first point beyond `end`
 */
export function readPlainPoints(
  text: string,
  at: number,
  end: number,
  take: (lon: number, lat: number, time: string, height: string) => void,
): number {
  POINT.lastIndex = at
  while (at < end) {
    const found = POINT.exec(text)
    if (!found || found[1] === found[3]) return at
    const [first, second] = [Number(found[2]), Number(found[4])]
    const isLatFirst = found[1] === 'lat'
    take(isLatFirst ? second : first, isLatFirst ? first : second, found[7] ?? '', found[5] ?? '')
    at = POINT.lastIndex
  }
  return at
}
