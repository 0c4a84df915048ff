import type { Page } from 'playwright-core'

export interface DroppedFile {
  name: string
  bytes: Buffer | string
}

/** Drops files on the page, as from a file manager. */
export async function dropOn(page: Page, ...files: readonly DroppedFile[]): Promise<void> {
  const data = await page.evaluateHandle(
    (all) => {
      const transfer = new DataTransfer()
      for (const { name, base64 } of all) transfer.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name))
      return transfer
    },
    files.map(({ name, bytes }) => ({ name, base64: Buffer.from(bytes).toString('base64') })),
  )
  for (const kind of ['dragenter', 'dragover', 'drop']) await page.dispatchEvent('main', kind, { dataTransfer: data })
}
