/** How often a field is updated while its value changes steadily, as in a drag, in milliseconds: nobody reads faster, and each update is costly. */
export const READABLE_PACE = 100
