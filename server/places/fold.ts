/** Letters that carry no accent to take off but are typed as others. */
const LETTERS: Record<string, string> = { ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', ł: 'l', đ: 'd', ð: 'd', þ: 'th', ı: 'i', ħ: 'h' }

/** A name as it is compared: small letters without accents, words apart by one space. */
export const foldName = (name: string): string =>
  name
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{Mark}/gu, '')
    .replace(/[ßæœøłđðþıħ]/g, (letter) => LETTERS[letter]!)
    .replace(/[^\p{Letter}\p{Number}]+/gu, ' ')
    .trim()
