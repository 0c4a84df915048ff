import type { View } from '../camera/view'
import { outputScale } from '../camera/view'
import type { Size } from '../geometry/size'
import type { Sheet } from '../journey/schema'

/** Sheet pixels for each output pixel; below 1 the picture is blown up and its pixels begin to show. At the middle of the frame, and all over where the view is flat. */
export const sharpness = (sheet: Pick<Sheet, 'place'>, view: View, frame: Size): number =>
  1 / (sheet.place.scale * view.zoom * outputScale(frame))

/** The largest zoom at which a sheet has a pixel for each output pixel, in reference pixels per gu. */
export const sharpZoom = (sheet: Pick<Sheet, 'place'>, frame: Size): number => 1 / (sheet.place.scale * outputScale(frame))
