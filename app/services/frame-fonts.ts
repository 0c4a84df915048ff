import { LABEL_FONT_PARTS } from '#draw/fonts'

const files = import.meta.glob<string>('../../node_modules/@fontsource/alegreya/files/alegreya-*-700-normal.woff2', {
  query: '?url',
  import: 'default',
  eager: true,
})

let loading: Promise<void> | undefined

/** Registers the label typeface with the browser, the same files as on the server; resolves when text can be painted. */
export function loadFrameFonts(): Promise<void> {
  loading ??= Promise.all(
    LABEL_FONT_PARTS.map(async ({ family, file }) => {
      const address = Object.entries(files).find(([path]) => path.endsWith(`/${file}`))![1]
      document.fonts.add(await new FontFace(family, `url(${address})`).load())
    }),
  ).then(() => undefined)
  return loading
}
