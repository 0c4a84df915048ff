/** How values are kept in the browser's storage; what is not JSON, as somebody else may have written there, is null. */
export const JSON_TEXT = {
  read(text: string): unknown {
    try {
      return JSON.parse(text)
    } catch {
      return null
    }
  },
  write: (value: unknown) => JSON.stringify(value),
}
