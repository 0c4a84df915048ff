/** Takes the frames of a film, and writes them to a file that has its name only when it is complete. */
export interface Encoder {
  /** Writes one frame, RGBA, row by row, alpha not premultiplied; resolves when the encoder is ready for the next. */
  write(frame: Uint8Array): Promise<void>
  /** Finishes the film and gives it its name. */
  finish(): Promise<void>
  /** Aborts, and deletes the unfinished file. */
  abort(): Promise<void>
}

/** The name of a file until it is complete. */
export const partOf = (out: string): string => `${out}.part`
