<script setup lang="ts">
import { computed } from 'vue'
import { editPostcard } from '#core/edits/marks/postcards'
import { cardMiddle, layoutOf } from '#core/marks/card-layout'
import { cardPoseAt } from '#core/marks/card-times'
import type { CompiledMark, CompiledPostcard } from '#core/trips/compiled'
import type { Point } from '#core/geometry/point'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import type { StageSpace } from './stage-space'
import { isBefore, toStage } from './stage-space'

/** The postcards that are in the picture, to be dragged to any place. */
const props = defineProps<{ space: StageSpace }>()
const editor = useEditor()
const playback = usePlayback()

const seen = computed(() =>
  (editor.compiled?.marks ?? []).flatMap((mark) =>
    mark.postcards.flatMap((times) => {
      const { postcard } = times
      if (!cardPoseAt(playback.time, times, postcard) || !isBefore(props.space, mark.stop.at)) return []
      const k = scaleOf(mark)
      const home = toStage(props.space, mark.stop.at)
      const { x, y } = middleOf(mark, times)
      const { width, height } = layoutOf(postcard)
      return [
        {
          mark,
          times,
          postcard,
          box: { x: -width / 2, y: -height / 2, width, height },
          at: `translate(${home.x + k * x} ${home.y + k * y}) scale(${k}) rotate(${postcard.tilt})`,
        },
      ]
    }),
  ),
)

/** CSS pixels to a card's reference pixels. */
const scaleOf = ({ stop }: CompiledMark): number => props.space.scale * Math.sqrt(props.space.projection.depthScale(stop.at))

function middleOf({ stop }: CompiledMark, { postcard, clearOf }: CompiledPostcard): Point {
  const { projection } = props.space
  return cardMiddle(
    postcard,
    { pin: stop.pin, clearOf },
    { ...projection.toScreen(stop.at), scale: Math.sqrt(projection.depthScale(stop.at)) },
    editor.compiled!.reference,
  )
}

function press(event: PointerEvent, mark: CompiledMark, times: CompiledPostcard) {
  const { postcard: card } = times
  const { stop } = mark
  event.stopPropagation()
  if (event.shiftKey) return editor.selectAlso({ kind: 'stop', id: stop.id })
  if (!editor.selectedIds.includes(stop.id)) editor.select({ kind: 'stop', id: stop.id })
  const from = middleOf(mark, times)
  const k = scaleOf(mark)
  followPointer(event, {
    move(by) {
      const place = { kind: 'free', x: Math.round(from.x + by.x / k), y: Math.round(from.y + by.y / k) } as const
      editor.edit((journey) => editPostcard(journey, stop.id, card.id, { place }), `drag card ${stop.id} ${card.id}`)
    },
    end: () => editor.endGesture(),
  })
}
</script>

<template>
  <g>
    <rect
      v-for="{ mark, times, postcard, box, at } in seen"
      :key="`${mark.stop.id} ${postcard.id}`"
      class="card"
      :class="{ selected: editor.selectedIds.includes(mark.stop.id) }"
      v-bind="box"
      :transform="at"
      :data-card="postcard.id"
      @pointerdown="press($event, mark, times)"
    >
      <title>Drag to move it</title>
    </rect>
  </g>
</template>

<style scoped>
.card {
  fill: transparent;
  stroke: transparent;
  stroke-width: 1.4;
  vector-effect: non-scaling-stroke;
  pointer-events: all;
  cursor: move;
}
.card:hover {
  stroke: #fdf8ec;
  stroke-dasharray: 4 3;
}
.card.selected:hover {
  stroke: #ff8a70;
}
</style>
