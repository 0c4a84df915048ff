import { strFromU8 } from 'fflate'

/** The one-byte encodings found in files, all read as the first; they differ from it only in characters that names seldom have. */
const LATIN = /^(iso-?8859-?(1|15)|latin-?[19]|windows-?1252|cp-?1252|us-ascii)$/i

/** The characters of an XML file: UTF-16 by its first bytes, what its XML declaration says, or else UTF-8. Source: W3C XML 1.0, appendix F. */
export function xmlText(bytes: Uint8Array): string {
  const [first, second] = bytes
  if ((first === 0xff && second === 0xfe) || (first === 0x3c && second === 0)) return fromUtf16(bytes, 0)
  if ((first === 0xfe && second === 0xff) || (first === 0 && second === 0x3c)) return fromUtf16(bytes, 1)
  const [, encoding = ''] = /^\s*<\?xml[^>]{0,100}encoding=["']([\w.:-]{1,40})["']/.exec(strFromU8(bytes.subarray(0, 200), true)) ?? []
  return strFromU8(bytes, LATIN.test(encoding))
}

/** @param low where in each pair of bytes the low one stands */
function fromUtf16(bytes: Uint8Array, low: 0 | 1): string {
  const units = new Uint16Array(bytes.length >> 1)
  for (let i = 0; i < units.length; i++) units[i] = bytes[2 * i + low]! | (bytes[2 * i + 1 - low]! << 8)
  const parts: string[] = []
  for (let at = 0; at < units.length; at += 8192) parts.push(String.fromCharCode(...units.subarray(at, at + 8192)))
  return parts.join('')
}
