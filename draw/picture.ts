/** Draws pictures as smoothly as the canvas can; the setting is put back, so that nothing else painted on this canvas depends on it. */
export function smoothly(context: CanvasRenderingContext2D, draw: () => void): void {
  const { imageSmoothingQuality } = context
  context.imageSmoothingQuality = 'high'
  draw()
  context.imageSmoothingQuality = imageSmoothingQuality
}
