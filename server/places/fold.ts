/** Letters without a separable accent that are typed as other ones. */
const LETTERS: Record<string, string> = { ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', ł: 'l', đ: 'd', ð: 'd', þ: 'th', ı: 'i', ħ: 'h' }

/** A name normalised for comparing: lower case, without accents, words separated by one space. */
export const foldName = (name: string): string =>
  name
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{Mark}/gu, '')
    .replace(/[ßæœøłđðþıħ]/g, (letter) => LETTERS[letter]!)
    .replace(/[^\p{Letter}\p{Number}]+/gu, ' ')
    .trim()
