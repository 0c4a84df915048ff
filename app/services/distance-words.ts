/** A length in metres as it is said of tracks, in kilometres. */
export function kilometres(length: number): string {
  const km = length / 1000
  return `${km < 10 ? km.toFixed(2) : km < 100 ? km.toFixed(1) : Math.round(km).toLocaleString('en')} km`
}

/** How long something took, to the minute. @param seconds not negative */
export function durationWords(seconds: number): string {
  const minutes = Math.round(seconds / 60)
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`
}
