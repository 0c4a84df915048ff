/** Breaks a text into lines of at most a width, at spaces where there are any; line breaks in it stay. */
export function brokenInto(context: CanvasRenderingContext2D, text: string, width: number): string[] {
  const fits = (line: string) => context.measureText(line).width <= width
  return text
    .trim()
    .split('\n')
    .flatMap((paragraph) => {
      const lines: string[] = []
      let line = ''
      for (const word of paragraph.split(/\s+/)) {
        const longer = line === '' ? word : `${line} ${word}`
        if (fits(longer)) {
          line = longer
          continue
        }
        if (line !== '') lines.push(line)
        line = ''
        // A word that is too long by itself, or a script without spaces.
        for (const letter of word) {
          if (line !== '' && !fits(line + letter)) {
            lines.push(line)
            line = ''
          }
          line += letter
        }
      }
      return [...lines, line]
    })
    .filter((line, i, all) => line !== '' || i < all.length - 1)
}
