/** Something about a journey that its maker can put right; the message is a whole sentence meant for them. */
export class JourneyError extends Error {
  override name = 'JourneyError'
}
