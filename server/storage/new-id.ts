import { customAlphabet } from 'nanoid'

const LETTERS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz'

/** A new id of twelve letters and digits (71 bits): it can be written after an option of a command, which may not begin with a dash. */
export const newId = customAlphabet(LETTERS, 12)
