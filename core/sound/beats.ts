import FFT from 'fft.js'

/**
 * Finds the beats of a piece of music: a curve of onsets (spectral flux), its usual period by autocorrelation, and the beats by dynamic programming.
 * Source: D. Ellis, Beat Tracking by Dynamic Programming, Journal of New Music Research 36 (2007).
 */
export interface Beats {
  /** Beats a minute. */
  tempo: number
  /** In seconds, rising. */
  times: number[]
  /** Bars, where one beat in three or four is plainly played harder. */
  bars?: Bars
}

interface Bars {
  /** Beats in a bar. */
  beats: number
  /** The number of the first beat that begins a bar, from 0. */
  first: number
}

/** Tempos that are looked for, in beats a minute, and the one that is thought likeliest where several fit. */
const SLOWEST = 50
const FASTEST = 210
const USUAL = 120
/** How far a likely tempo is from the usual one, in octaves. */
const SPREAD = 1.1

/** Sound is looked at so many times a second, through a window of so many samples, after it has been thinned out to so many samples a second. */
const LOOKS = 100
const WINDOW = 512
const THINNED = 12_000

/** The first bins of the middle and of the high band: 160 Hz and 2 kHz, below which a kick and above which a hat is heard (common practice, no source). */
const LOW = Math.round((160 / THINNED) * WINDOW)
const HIGH = Math.round((2000 / THINNED) * WINDOW)

/** Slower than this one counts twice as many beats where there are notes for them, in beats a minute. */
const SLOWEST_USUAL = 78
/** A beat is taken for an off-beat when it is at most so strong as the one before it. */
const OFF_BEAT = 0.85

/** What a note counts for being one, against how loud it is. */
const EVERY_NOTE = 0.3

/** How dearly a beat that comes too early or too late is paid for, as in the source. */
const TIGHTNESS = 120

/** A half of a period that is nearly as strong as the whole is the beat itself, unless that were so fast, in beats a minute: then it is the note between two. */
const HALF = 0.75
const HALF_OF_SLOW = 0.4
const FASTEST_PART = 186

/**
 * The beats of a sound; none where there is nothing that repeats.
 * @param samples one channel, or several added up, -1 to 1
 * @param rate samples a second
 */
export function findBeats(samples: Float32Array, rate: number): Beats | undefined {
  const { onsets, strength } = onsetCurves(thinnedOut(samples, rate))
  const curve = normalised(strength.map((value, k) => value + EVERY_NOTE * onsets[k]!))
  const period = periodOf(curve)
  if (period === undefined) return undefined
  const looks = withoutOffBeats(beatsBy(curve, period), curve)
  if (looks.length < 4) return undefined
  const times = looks.map((k) => refined(onsets, k) / LOOKS)
  const bars = barsOf(looks.map((k) => loudest(strength, k)))
  return { tempo: 60 / meanInterval(times), times: times.map((time) => Math.round(time * 1000) / 1000), ...(bars && { bars }) }
}

/** The sound at fewer samples a second, each the mean of those it stands for. */
function thinnedOut(samples: Float32Array, rate: number): Float32Array {
  const step = rate / THINNED
  if (step <= 1) return samples
  return Float32Array.from({ length: Math.floor(samples.length / step) }, (_, k) => {
    const [from, to] = [Math.floor(k * step), Math.floor((k + 1) * step)]
    let sum = 0
    for (let i = from; i < to; i++) sum += samples[i]!
    return sum / (to - from)
  })
}

interface Curves {
  /** How much louder the sound gets at each look, over all its frequencies, by its logarithm: a faint note counts nearly as much as a loud one. */
  onsets: Float64Array
  /** How much louder it gets by its amplitude, in three bands: what one taps one's foot to. */
  strength: Float64Array
}

/** The mean of each curve is 0 and its deviation 1. */
function onsetCurves(samples: Float32Array): Curves {
  const fft = new FFT(WINDOW)
  const hop = THINNED / LOOKS
  const count = Math.max(0, Math.floor((samples.length - WINDOW) / hop) + 1)
  const window = Float64Array.from({ length: WINDOW }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / WINDOW))
  const input = Array<number>(WINDOW).fill(0)
  const spectrum = fft.createComplexArray() as number[]
  let before = new Float64Array(WINDOW / 2)
  let energyBefore = [0, 0, 0]
  const onsets = new Float64Array(count)
  const strength = new Float64Array(count)
  for (let k = 0; k < count; k++) {
    for (let i = 0; i < WINDOW; i++) input[i] = samples[k * hop + i]! * window[i]!
    fft.realTransform(spectrum, input)
    const now = new Float64Array(WINDOW / 2)
    const energy = [0, 0, 0]
    let flux = 0
    for (let b = 1; b < WINDOW / 2; b++) {
      const power = spectrum[2 * b]! ** 2 + spectrum[2 * b + 1]! ** 2
      now[b] = Math.log1p(100 * Math.sqrt(power))
      flux += Math.max(0, now[b]! - before[b]!)
      energy[b < LOW ? 0 : b < HIGH ? 1 : 2]! += power
    }
    if (k > 0) {
      onsets[k] = flux
      strength[k] = energy.reduce((sum, value, band) => sum + Math.sqrt(Math.max(0, value - energyBefore[band]!)), 0)
    }
    ;[before, energyBefore] = [now, energy]
  }
  return { onsets: normalised(onsets), strength: normalised(strength) }
}

function normalised(curve: Float64Array): Float64Array {
  const mean = curve.reduce((a, b) => a + b, 0) / Math.max(1, curve.length)
  const deviation = Math.sqrt(curve.reduce((a, b) => a + (b - mean) ** 2, 0) / Math.max(1, curve.length))
  return deviation > 1e-9 ? curve.map((value) => (value - mean) / deviation) : new Float64Array(curve.length)
}

/** The period of a curve in looks, to a fraction; undefined where nothing repeats. */
function periodOf(onsets: Float64Array): number | undefined {
  const [least, most] = [Math.floor((60 / FASTEST) * LOOKS), Math.ceil((60 / SLOWEST) * LOOKS)]
  if (onsets.length < 3 * most) return undefined
  const smooth = smoothed(onsets)
  const likeness = Array.from({ length: most + 2 }, (_, lag) => (lag < least - 1 ? 0 : correlation(smooth, lag)))
  const whole = correlation(smooth, 0)
  const weighed = (lag: number) => likeness[lag]! * Math.exp(-0.5 * (Math.log2(60 / (lag / LOOKS) / USUAL) / SPREAD) ** 2)
  let best = 0
  for (let lag = least; lag <= most; lag++) {
    const isPeak = likeness[lag]! >= likeness[lag - 1]! && likeness[lag]! >= likeness[lag + 1]!
    if (isPeak && (best === 0 || weighed(lag) > weighed(best))) best = lag
  }
  if (best === 0 || likeness[best]! < 0.05 * whole) return undefined
  // Whatever repeats in a period also repeats in two or three of them: the shortest that is as strong is the beat.
  for (const part of [3, 2]) {
    const near = Math.round(best / part)
    const found = [near - 1, near, near + 1].filter((lag) => lag >= least).sort((a, b) => likeness[b]! - likeness[a]!)[0]
    const isSlowEnough = found !== undefined && (60 * LOOKS) / found <= FASTEST_PART
    const share = (60 * LOOKS) / best < SLOWEST_USUAL && part === 2 ? HALF_OF_SLOW : HALF
    if (isSlowEnough && likeness[found]! > share * likeness[best]!) return peakAt(likeness, found)
  }
  return peakAt(likeness, best)
}

/** The place of a peak of a table, between its entries, by the parabola through it. */
function peakAt(values: readonly number[], k: number): number {
  const [a, b, c] = [values[k - 1] ?? 0, values[k]!, values[k + 1] ?? 0]
  const bend = a - 2 * b + c
  return bend < 0 ? k + Math.max(-0.5, Math.min(0.5, (0.5 * (a - c)) / bend)) : k
}

function correlation(curve: Float64Array, lag: number): number {
  let sum = 0
  for (let i = lag; i < curve.length; i++) sum += curve[i]! * curve[i - lag]!
  return sum / (curve.length - lag)
}

/** The curve with its peaks a little wider, so that beats that are not quite even are still alike. */
const smoothed = (curve: Float64Array): Float64Array =>
  curve.map((value, i) => 0.5 * value + 0.25 * ((curve[i - 1] ?? 0) + (curve[i + 1] ?? 0)))

/** The looks at which there are beats: as loud as can be, and as evenly spaced. */
function beatsBy(onsets: Float64Array, period: number): number[] {
  const curve = smoothed(onsets)
  const score = new Float64Array(curve.length)
  const from = new Int32Array(curve.length).fill(-1)
  const [nearest, furthest] = [Math.round(period / 2), Math.round(2 * period)]
  const price = Float64Array.from({ length: furthest + 1 }, (_, gap) => (gap > 0 ? -TIGHTNESS * Math.log(gap / period) ** 2 : -Infinity))
  for (let k = 0; k < curve.length; k++) {
    let best = 0
    for (let gap = nearest; gap <= furthest && gap <= k; gap++) {
      const reached = score[k - gap]! + price[gap]!
      if (reached > best) [best, from[k]] = [reached, k - gap]
    }
    score[k] = curve[k]! + best
  }
  let last = 0
  // The last beat is the best one of the last period.
  for (let k = Math.max(0, curve.length - Math.round(period)); k < curve.length; k++) if (score[k]! > score[last]! || last === 0) last = k
  const beats: number[] = []
  for (let k = last; k >= 0; k = from[k]!) beats.push(k)
  return beats.reverse().filter((k, i, all) => (i > 0 && i < all.length - 1) || onsets[k]! > 0)
}

/** Every second beat, the stronger ones, where beats are so fast that one would count half as many, and every other one is plainly weaker. */
function withoutOffBeats(looks: number[], curve: Float64Array): number[] {
  const seconds = (looks.at(-1)! - looks[0]!) / LOOKS
  if ((60 * (looks.length - 1)) / seconds < 2 * SLOWEST_USUAL) return looks
  const every = [0, 1].map((from) => looks.filter((_, i) => i % 2 === from))
  const [even, odd] = every.map((part) => Math.max(0, part.reduce((sum, k) => sum + loudest(curve, k), 0) / part.length)) as [
    number,
    number,
  ]
  if (Math.min(even, odd) > OFF_BEAT * Math.max(even, odd)) return looks
  return every[even > odd ? 0 : 1]!
}

/** The most of a curve at a beat, and just after it. */
const loudest = (curve: Float64Array, k: number): number => Math.max(curve[k]!, curve[k + 1] ?? 0, curve[k + 2] ?? 0)

/** How much of the differences in loudness of beats bars must explain, and by how much better than any other way to count them. */
const LEAST_EXPLAINED = 0.35
const PLAINLY = 0.1

/** The bars of beats so loud; undefined where none is plain: bars of four of which the first and the third are alike could begin at either. */
function barsOf(loudness: readonly number[]): Bars | undefined {
  if (loudness.length < 16) return undefined
  const mean = loudness.reduce((a, b) => a + b, 0) / loudness.length
  const variation = loudness.reduce((sum, value) => sum + (value - mean) ** 2, 0)
  const found = [3, 4].flatMap((beats) =>
    Array.from({ length: beats }, (_, first) => {
      const firsts = loudness.filter((_value, i) => i % beats === first)
      const share = firsts.length / loudness.length
      const above = firsts.reduce((a, b) => a + b, 0) / firsts.length - mean
      // The variance between two groups, the firsts and the rest, whose means are `above` and as far below as their sizes ask for.
      const explained = above > 0 ? (loudness.length * share * above ** 2) / (1 - share) / variation : 0
      return { beats, first, explained }
    }),
  )
  const [best, next] = found.sort((a, b) => b.explained - a.explained) as [(typeof found)[0], (typeof found)[0]]
  if (!(best.explained >= LEAST_EXPLAINED && best.explained >= next.explained + PLAINLY)) return undefined
  return { beats: best.beats, first: best.first }
}

/** A beat between looks: where the nearest note begins, later by how much the window runs ahead of it. */
function refined(onsets: Float64Array, k: number): number {
  let near = k
  for (let i = k - NEAR; i <= k + NEAR; i++) if ((onsets[i] ?? -Infinity) > onsets[near]!) near = i
  const centre = peakAt([onsets[near - 1] ?? 0, onsets[near]!, onsets[near + 1] ?? 0], 1) - 1 + near
  return Math.max(0, centre + LEAD)
}

/** A note gets louder by its amplitude up to so many looks after it does by its logarithm, as the window fills. */
const NEAR = 2

/** The spectrum, taken by its logarithm, grows most when an onset has come through the last quarter of the window (measured on clicks, which it finds to 3 ms). */
const LEAD = 0.75 * (WINDOW / THINNED) * LOOKS

/** The mean interval of times, by the line through them (least squares). */
function meanInterval(times: readonly number[]): number {
  const middle = (times.length - 1) / 2
  const mean = times.reduce((a, b) => a + b, 0) / times.length
  let [above, below] = [0, 0]
  times.forEach((time, i) => {
    above += (i - middle) * (time - mean)
    below += (i - middle) ** 2
  })
  return above / below
}
