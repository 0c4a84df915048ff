import { useFileDialog } from '@vueuse/core'

/**
 * Lets the user choose files from the disk.
 * @param endings those that are offered, such as '.gpx'
 * @param take gets the chosen files, at least one; it is not called if the dialog is cancelled
 */
export function chooseFiles(endings: readonly string[], multiple: boolean, take: (files: File[]) => unknown): void {
  const { open, onChange } = useFileDialog({ accept: endings.join(','), multiple })
  onChange((files) => {
    if (files?.length) void take([...files])
  })
  open()
}
