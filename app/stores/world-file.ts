import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Size } from '#core/geometry/size'
import type { WorldFileReading } from '#core/formats/world-file-georeference'
import { georeferenceIn, planeOfPrj, readingOfWorldFile } from '#core/formats/world-file-georeference'
import { JourneyError } from '#core/error'
import type { Georeference, Plane } from '#core/journey/schema'

/** Extensions of world files, and of the files beside them that name the coordinate system. */
export const WORLD_FILES = ['.pgw', '.jgw', '.tfw', '.wld', '.pngw', '.jpgw', '.tifw']
export const SYSTEM_FILES = ['.prj']

const endsIn = ({ name }: File, endings: readonly string[]) => endings.some((ending) => name.toLowerCase().endsWith(ending))
export const isWorldFile = (file: File): boolean => endsIn(file, WORLD_FILES)
export const isSystemFile = (file: File): boolean => endsIn(file, SYSTEM_FILES)

const MOST_BYTES = 64 * 1024

/** A world file whose coordinate system the user has to choose. */
export interface Question extends WorldFileReading {
  name: string
  size: Size
  answer: (plane: Plane | undefined) => void
}

/** Turns world files into the georeference of a sheet. */
export const useWorldFile = defineStore('world-file', () => {
  const question = shallowRef<Question>()

  async function textOf(file: File): Promise<string> {
    if (file.size > MOST_BYTES)
      throw new JourneyError(`“${file.name}” is too large for what it should be: choose the file that came with the map.`)
    return file.text()
  }

  /**
   * The georeference that a world file gives a sheet, with the .prj file among `files` if there is one. Asks for the coordinate system if nothing
   * says it; undefined if that is not answered.
   * @throws JourneyError if a file is not what it should be
   */
  async function read(files: readonly File[], size: Size): Promise<Georeference | undefined> {
    const world = files.find(isWorldFile)
    if (!world) throw new JourneyError('A .prj file says what the numbers of a world file are: choose both together.')
    const prj = files.find(isSystemFile)
    const reading = readingOfWorldFile(await textOf(world), world.name, size)
    const said = prj ? planeOfPrj(await textOf(prj), prj.name) : reading.plane
    const plane = said ?? (await ask({ ...reading, name: world.name, size }))
    return plane && georeferenceIn(plane, reading.matrix, world.name, size)
  }

  function ask(about: Omit<Question, 'answer'>): Promise<Plane | undefined> {
    question.value?.answer(undefined)
    return new Promise((resolve) => {
      question.value = {
        ...about,
        answer(plane) {
          question.value = undefined
          resolve(plane)
        },
      }
    })
  }

  return { question, read }
})
