/** Width and height; the unit is the caller's (pixels of a picture, or reference pixels). */
export interface Size {
  width: number
  height: number
}
