/**
 * The project's benchmark, `npm run bench`: painting, encoding the same frames alone, whole films, and the preview in headless Chromium, all in one run on the
 * demo at 1080p. The machine is noisy, so ratios count, not seconds. `npm run bench -- frames dress` measures only those parts: frames, export, films, painters,
 * peer, tilt, globe, dress, sheets, preview.
 */
import { setPlan } from '#core/edits/camera/shots'
import { stillDemo } from '#demo/journey'
import { freshDemo } from '#demo/seed'
import { measureExport, measurePainters, measureWholeFilm } from './bench/films'
import { measureDress, measureFrameAt, measureGlobe, measureSheetSize, measureTilt, COUNT } from './bench/painting'
import { measurePeer } from './bench/peer'
import { measurePreview } from './bench/preview'
import { hundredStops, moving } from './bench/trips'

const { journey: film, folder } = await freshDemo()
/** Most is measured with a camera that rests over the whole sheet. */
const journey = stillDemo(film)
const lively = setPlan({ ...film, shots: [] }, 'lively')
const PARTS = {
  frames() {
    measureFrameAt(film, 'the demo', 'target: under 0.1 ms')
    measureFrameAt(lively, 'a lively plan', 'target: at most 0.15 ms')
    measureFrameAt(hundredStops(), 'a hundred stops', 'target: at most 0.1 ms')
  },
  async export() {
    await measureExport(folder, journey, 'a view that rests', COUNT, 'target: at most 1.1')
    await measureExport(folder, moving(journey, 0), 'a view that moves', 120, 'target: at most 1.5')
    await measureExport(folder, lively, 'a lively plan', 120, 'target: at most 1.8')
  },
  async films() {
    await measureWholeFilm(folder, film, 'the demo', 'target: at most 1.0')
    const night = await freshDemo('night')
    await measureWholeFilm(night.folder, night.journey, 'the night crossing', 'target: at most 1.2')
  },
  painters: () => measurePainters(folder, moving(journey, 45)),
  peer: () => measurePeer(folder, moving(journey, 45)),
  tilt: () => measureTilt(folder, journey),
  globe: measureGlobe,
  dress: () => measureDress(folder, film),
  sheets: () => measureSheetSize(journey),
  preview: measurePreview,
}
const asked = process.argv.slice(2)
for (const [name, measure] of Object.entries(PARTS)) if (asked.length === 0 || asked.includes(name)) await measure()
