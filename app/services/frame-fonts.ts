import { isOwnFamily } from '#core/type/families'
import type { Face } from '#core/type/measure'
import { fontParts } from '#draw/type/fonts'

/** The addresses of the font files, by their paths. Never inlined: the page's policy allows fonts from the server only. */
const files = import.meta.glob<string>(
  '../../node_modules/@fontsource/{alegreya,alegreya-sans,sofia-sans-extra-condensed,roboto-slab,comfortaa,jura,playpen-sans,oi}/files/*-{latin,latin-ext,greek,cyrillic,vietnamese}-{400,500,600,700,800,900}-normal.woff2',
  { query: '?url&no-inline', import: 'default', eager: true },
)

const loading = new Map<string, Promise<void>>()

/** Registers typefaces with the browser, the same files as on the server; resolves when text in them can be painted. */
export async function loadFaces(faces: readonly Pick<Face, 'family' | 'weight'>[]): Promise<void> {
  const parts = new Map(faces.flatMap(fontParts).map((part) => [part.registered, part]))
  await Promise.all(
    [...parts.values()].map(({ registered, family, file }) => {
      const known = loading.get(registered)
      if (known) return known
      const address = isOwnFamily(family)
        ? `/api/fonts/${file}`
        : Object.entries(files).find(([path]) => path.endsWith(`/${family}/files/${file}`))![1]
      const load = new FontFace(registered, `url(${address})`).load().then((face) => void document.fonts.add(face))
      loading.set(registered, load)
      // It is asked for again when it is needed next.
      load.catch(() => loading.delete(registered))
      return load
    }),
  )
}
