/** Takes the frames of a film, and writes them to a file that has its name only when it is complete. */
export interface Encoder {
  /** Writes one frame, of the film's pixel format; resolves when the encoder is ready for the next, and has no more need of its memory. */
  write(frame: Uint8Array): Promise<void>
  /** Finishes the film and gives it its name. */
  finish(): Promise<void>
  /** Aborts, and deletes the unfinished file. */
  abort(): Promise<void>
}

/** The name of a file until it is complete. */
export const partOf = (out: string): string => `${out}.part`
