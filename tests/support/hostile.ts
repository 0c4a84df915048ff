import { deflateSync } from 'node:zlib'
import sharp from 'sharp'
import { mbtiles } from './mbtiles'

/** A small file that would take much memory or time if it were let. */
export interface HostileFile {
  what: string
  name: string
  bytes: () => Promise<Buffer> | Buffer
}

const svg = (body: string, size = 100) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 ${size} ${size}">${body}</svg>`,
  )

/** Each mask is made with the one before. */
function nestedMasks(): Buffer {
  const masks = Array.from(
    { length: 40 },
    (_, i) => `<mask id="m${i}"><rect width="100" height="100" fill="#fff"${i ? ` mask="url(#m${i - 1})"` : ''}/></mask>`,
  )
  return svg(`<defs>${masks.join('')}</defs><rect width="100" height="100" mask="url(#m39)"/>`)
}

/** Each pattern is filled with the one before. */
function nestedPatterns(): Buffer {
  const patterns = Array.from(
    { length: 24 },
    (_, i) => `<pattern id="p${i}" width=".1" height=".1"><rect width="50" height="50" fill="${i ? `url(#p${i - 1})` : 'red'}"/></pattern>`,
  )
  return svg(`<defs>${patterns.join('')}</defs><rect width="100" height="100" fill="url(#p23)"/>`)
}

/** A PDF of one page from its objects, numbered from 1. Source: ISO 32000-1, section 7.5. */
function pdfOf(objects: Buffer[]): Buffer {
  const parts = [Buffer.from('%PDF-1.4\n')]
  const offsets: number[] = []
  let at = parts[0]!.length
  objects.forEach((object, i) => {
    const part = Buffer.concat([Buffer.from(`${i + 1} 0 obj\n`), object, Buffer.from('\nendobj\n')])
    offsets.push(at)
    at += part.length
    parts.push(part)
  })
  const table = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('')
  parts.push(
    Buffer.from(
      `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${at}\n%%EOF`,
    ),
  )
  return Buffer.concat(parts)
}

const stream = (dictionary: string, data: Buffer) =>
  Buffer.concat([Buffer.from(`<< ${dictionary} /Length ${data.length} >>\nstream\n`), data, Buffer.from('\nendstream')])

/** A PDF with one picture of so many pixels a side. */
function pdfWithPicture(side: number): Buffer {
  return pdfOf([
    Buffer.from('<< /Type /Catalog /Pages 2 0 R >>'),
    Buffer.from('<< /Type /Pages /Kids [3 0 R] /Count 1 >>'),
    Buffer.from('<< /Type /Page /Parent 2 0 R /MediaBox [0 0 300 300] /Contents 4 0 R /Resources << /XObject << /A 5 0 R >> >> >>'),
    stream('', Buffer.from('300 0 0 300 0 0 cm /A Do')),
    stream(
      `/Type /XObject /Subtype /Image /Width ${side} /Height ${side} /ColorSpace /DeviceRGB /BitsPerComponent 8 /Filter /FlateDecode`,
      deflateSync(Buffer.alloc(3 * side * side)),
    ),
  ])
}

/** A PDF of which each form draws the next one ten times: 10^8 in all. */
function pdfOfForms(): Buffer {
  const forms = Array.from({ length: 8 }, (_, i) =>
    stream(
      `/Type /XObject /Subtype /Form /BBox [0 0 300 300] /Resources << /XObject << /A ${i + 6} 0 R >> >>`,
      Buffer.from('/A Do '.repeat(10)),
    ),
  )
  return pdfOf([
    Buffer.from('<< /Type /Catalog /Pages 2 0 R >>'),
    Buffer.from('<< /Type /Pages /Kids [3 0 R] /Count 1 >>'),
    Buffer.from('<< /Type /Page /Parent 2 0 R /MediaBox [0 0 300 300] /Contents 4 0 R /Resources << /XObject << /A 5 0 R >> >> >>'),
    stream('', Buffer.from('/A Do')),
    ...forms,
    stream('/Type /XObject /Subtype /Form /BBox [0 0 300 300]', Buffer.from('0 0 9 9 re f')),
  ])
}

/** MBTiles whose tiles come from a view without an end. */
function endlessView(): Buffer {
  return mbtiles((file) =>
    file.exec(`CREATE TABLE metadata (name TEXT, value TEXT);
      CREATE VIEW tiles AS WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n)
        SELECT 5 AS zoom_level, i % 32 AS tile_column, i % 31 AS tile_row, x'00' AS tile_data FROM n;`),
  )
}

async function picturesInside(): Promise<Buffer> {
  const picture = await sharp({ create: { width: 12_000, height: 12_000, channels: 3, background: '#357' } })
    .png({ compressionLevel: 9, palette: true })
    .toBuffer()
  const address = `data:image/png;base64,${picture.toString('base64')}`
  return svg(Array.from({ length: 4 }, (_, i) => `<image x="${i}" width="90" height="90" href="${address}"/>`).join(''))
}

/** A WebP that says how large it is and holds nothing. Source: RFC 9649, section 3. */
function hugeWebp(side: number): Buffer {
  const data = Buffer.alloc(5)
  data[0] = 0x2f
  data.writeUInt32LE((side - 1) | ((side - 1) << 14), 1)
  const head = Buffer.alloc(20)
  head.write('RIFF', 0, 'latin1')
  head.writeUInt32LE(4 + 8 + 6, 4)
  head.write('WEBPVP8L', 8, 'latin1')
  head.writeUInt32LE(5, 16)
  return Buffer.concat([head, data, Buffer.alloc(1)])
}

export const HOSTILE: readonly HostileFile[] = [
  { what: 'masks in masks', name: 'masks.svg', bytes: nestedMasks },
  { what: 'patterns in patterns', name: 'patterns.svg', bytes: nestedPatterns },
  {
    what: 'a filter a thousand times as large as the picture',
    name: 'filter.svg',
    bytes: () =>
      svg(
        '<filter id="f" x="-100000%" y="-100000%" width="200000%" height="200000%"><feGaussianBlur stdDeviation="900"/><feTurbulence numOctaves="900"/></filter><rect width="100" height="100" filter="url(#f)"/>',
      ),
  },
  { what: 'pictures of 576 megapixels in a drawing', name: 'album.svg', bytes: picturesInside },
  {
    what: 'a style of unclosed brackets',
    name: 'brackets.svg',
    bytes: () => svg(`<style>${'url('.repeat(50_000)}</style><rect width="9" height="9"/>`),
  },
  { what: 'a PDF with a picture of 400 megapixels', name: 'picture.pdf', bytes: () => pdfWithPicture(20_000) },
  { what: 'a PDF of 10^8 forms', name: 'forms.pdf', bytes: pdfOfForms },
  { what: 'MBTiles without an end', name: 'endless.mbtiles', bytes: endlessView },
  { what: 'a WebP of 268 megapixels', name: 'huge.webp', bytes: () => hugeWebp(16_383) },
]
