/** Errors that come from the machine, not from Zephyrine: what to answer, in a sentence for the user. */
export interface Trouble {
  status: number
  message: string
}

const DISK_FULL: Trouble = { status: 507, message: 'The disk is full: make room, then it goes on.' }
const BUSY: Trouble = { status: 503, message: 'Another program holds Zephyrine’s data: close it, then it goes on.' }

/** What an error, or one that caused it, says of the machine; undefined if it is something else. */
export function troubleOf(error: unknown): Trouble | undefined {
  for (let one = error, depth = 0; one instanceof Error && depth < 5; one = one.cause, depth++) {
    const { code } = one as { code?: unknown }
    if (code === 'ENOSPC' || code === 'EDQUOT' || code === 'SQLITE_FULL' || /no space left on device/i.test(one.message)) return DISK_FULL
    if (typeof code === 'string' && /^SQLITE_(BUSY|LOCKED)/.test(code)) return BUSY
  }
  return undefined
}
