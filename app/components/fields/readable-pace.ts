/** How often a value in a field is updated while it changes steadily, as in a drag, in milliseconds: nobody reads faster, and each update takes a while. */
export const READABLE_PACE = 100
