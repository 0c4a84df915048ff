<script setup lang="ts">
import { nanoid } from 'nanoid'
import { addLandmark, moveLandmark, newMark, newPicture } from '#core/edits/marks/landmarks'
import type { Point } from '#core/geometry/point'
import type { Landmark } from '#core/journey/schema'
import { LIMITS } from '#core/journey/schema'
import SortableList from '~/components/fields/SortableList.vue'
import { useEditor } from '~/stores/editor'
import { useOwnPicture } from '~/stores/own-picture'
import { useStage } from '~/stores/stage'

/** What is seen beside the way: marks, names and pictures. New ones come into the middle of the stage. */
const editor = useEditor()
const stage = useStage()
const own = useOwnPicture()

/** So far beside another one comes one that would be in the same place, in reference pixels. */
const STEP = 60
/** The middle of the stage, or the next free place beside it. */
function spot(): Point {
  const { centre, zoom } = stage.view
  const isTaken = ({ x, y }: Point) => editor.journey!.landmarks.some(({ at }) => at.x === x && at.y === y)
  let at = { ...centre }
  while (isTaken(at)) at = { x: at.x + STEP / zoom, y: at.y + STEP / zoom }
  return at
}

function add(landmark: Landmark) {
  if (editor.edit((journey) => addLandmark(journey, landmark))) editor.select({ kind: 'landmark', id: landmark.id })
}
const addMark = (name: string, hasPin: boolean) => add(newMark(editor.journey!, nanoid(10), spot(), name, hasPin))
const addPicture = () =>
  own.choose('landmark', (picture, { anchor }, name) =>
    add({ ...newPicture(nanoid(10), spot(), name, picture, stage.view.zoom), anchor } as Landmark),
  )

const KINDS: Readonly<Record<Landmark['kind'], string>> = { mark: 'Mark', standing: 'Picture', lying: 'Picture on the ground' }
const nameOf = ({ name, kind }: Landmark) => name.split('\n')[0]!.trim() || KINDS[kind]
</script>

<template>
  <SortableList
    label="Landmarks"
    testid="landmark"
    :entries="editor.journey!.landmarks.map((landmark) => ({ id: landmark.id, name: nameOf(landmark) }))"
    @choose="(id) => editor.select({ kind: 'landmark', id })"
    @move="(from, to) => editor.edit((journey) => moveLandmark(journey, from, to))"
  />
  <div v-if="editor.journey!.landmarks.length < LIMITS.landmarks" class="buttons">
    <v-btn size="small" variant="outlined" data-testid="add-mark" @click="addMark('Landmark', true)">Add a mark</v-btn>
    <v-btn size="small" variant="outlined" data-testid="add-words" @click="addMark('A few words', false)">Add a name</v-btn>
    <v-btn size="small" variant="outlined" data-testid="add-landmark-picture" @click="addPicture">Add a picture …</v-btn>
  </div>
  <p v-if="own.failure && !own.original" class="error" role="alert">{{ own.failure }}</p>
</template>

<style scoped>
.error {
  color: var(--vermilion);
}
</style>
