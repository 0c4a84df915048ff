import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { ref, shallowReactive, shallowRef } from 'vue'
import { addAudio, editAudio } from '#core/edits/pace/audio'
import { isHeard } from '#core/film/settings'
import type { Journey } from '#core/journey/schema'
import { SOUND_RATE } from '#core/sound/pcm'
import { ApiError, uploadAudio } from '~/services/api'
import { chooseFiles } from '~/services/choose-files'
import { isAbort, WorkerError } from '~/services/call-worker'
import { openSoundDesk } from '~/services/sound-desk'
import { useEditor } from './editor'
import { usePlayback } from './playback'

/** Files of sound that can be added. */
const AUDIO_ENDINGS = ['.wav', '.mp3', '.ogg', '.oga', '.m4a', '.flac']
export const isAudioFile = ({ name }: File): boolean => AUDIO_ENDINGS.some((ending) => name.toLowerCase().endsWith(ending))

/** Sound and picture may part by so much before the sound is set right, in seconds: about two frames. */
const MOST_DRIFT = 0.07

/** Music and sounds of the journey: taken in, pictured, searched for beats, and played with the picture. */
export const useSound = defineStore('sound', () => {
  const editor = useEditor()
  const playback = usePlayback()
  const desk = openSoundDesk()
  /** What is being added, and why something could not be. */
  const adding = shallowRef<{ name: string; cancel: () => void }>()
  const problem = ref('')
  /** The piece whose beats are being looked for. */
  const searching = ref<string>()
  /** The peaks of pieces, by their files. */
  const peaks = shallowReactive(new Map<string, { rate: number; values: Float32Array }>())
  const muted = ref(false)

  /** Tells what went wrong; a worker that was closed has nothing to say any more. */
  function tell(error: unknown) {
    if (isAbort(error)) return
    if (!(error instanceof ApiError || error instanceof WorkerError)) throw error
    problem.value = error.message
  }

  async function add(file: File) {
    problem.value = ''
    const control = new AbortController()
    const { opening } = editor
    adding.value = { name: file.name, cancel: () => control.abort() }
    try {
      const added = await uploadAudio(file, control.signal)
      if (editor.opening !== opening) return
      const id = nanoid(10)
      if (editor.edit((j) => addAudio(j, id, added))) editor.select({ kind: 'audio', id })
    } catch (error) {
      if (!control.signal.aborted) tell(error)
    } finally {
      adding.value = undefined
    }
  }
  const choose = () => chooseFiles(AUDIO_ENDINGS, false, ([file]) => void add(file!))

  /** Reads the peaks of a piece, once. */
  async function picture(file: string) {
    if (peaks.has(file)) return
    try {
      peaks.set(file, await desk.keep(file))
    } catch (error) {
      tell(error)
    }
  }

  /** Looks for the beats of a piece in what is heard of it. */
  async function findBeats(id: string) {
    const piece = editor.journey?.audio.find((each) => each.id === id)
    if (!piece) return
    problem.value = ''
    searching.value = id
    const { opening } = editor
    try {
      await desk.keep(piece.file)
      const found = await desk.call('beats', { file: piece.file, from: piece.from, to: piece.to })
      if (editor.opening !== opening || searching.value !== id) return
      if (found) editor.edit((j) => editAudio(j, id, { beats: found.times, bars: found.bars ?? null }))
      else problem.value = `No beat was found in “${piece.name}”: tap along by hand instead, with B while it plays.`
    } catch (error) {
      tell(error)
    } finally {
      if (searching.value === id) searching.value = undefined
    }
  }
  const stopSearching = () => (searching.value = undefined)

  let context: AudioContext | undefined
  let buffer: { journey: Journey; heard: AudioBuffer | undefined } | undefined
  let mixing: Journey | undefined
  let sounding: { source: AudioBufferSourceNode; from: number; at: number; speed: number } | undefined

  /** Mixes what is heard with the journey as it is now. */
  async function mix(journey: Journey) {
    if (mixing === journey) return
    mixing = journey
    try {
      await Promise.all(journey.audio.map(({ file }) => desk.keep(file)))
      const channels = await desk.call('mix', { journey })
      if (mixing !== journey) return
      let heard: AudioBuffer | undefined
      if (channels) {
        context ??= new AudioContext({ sampleRate: SOUND_RATE })
        heard = context.createBuffer(2, channels[0].length, SOUND_RATE)
        channels.forEach((samples, c) => heard!.copyToChannel(samples, c))
      }
      buffer = { journey, heard }
      stop()
    } catch (error) {
      tell(error)
    } finally {
      if (mixing === journey) mixing = undefined
    }
  }

  function stop() {
    sounding?.source.stop()
    sounding = undefined
  }

  /** Where the sound is in the film, in seconds; undefined while nothing sounds. */
  const position = (): number | undefined =>
    sounding && context ? sounding.from + (context.currentTime - sounding.at) * sounding.speed : undefined

  /** Keeps the sound with the picture: called for each frame while the film plays, and once when it stops. */
  function follow() {
    const { journey } = editor
    if (!playback.playing || muted.value || !journey || !isHeard(journey)) return stop()
    if (buffer?.journey !== journey) void mix(journey)
    const heard = buffer?.heard
    if (!heard || !context) return stop()
    void context.resume()
    const at = position()
    if (at !== undefined && Math.abs(at - playback.time) < MOST_DRIFT * Math.max(1, playback.speed) && sounding!.speed === playback.speed)
      return
    stop()
    if (playback.time >= heard.duration) return
    const source = context.createBufferSource()
    source.buffer = heard
    source.playbackRate.value = playback.speed
    source.connect(context.destination)
    source.start(0, playback.time)
    sounding = { source, from: playback.time, at: context.currentTime, speed: playback.speed }
  }

  function close() {
    stop()
    desk.close()
    peaks.clear()
    buffer = mixing = undefined
    void context?.close()
    context = undefined
  }

  return { adding, problem, searching, peaks, muted, add, choose, picture, findBeats, stopSearching, follow, position, close }
})
