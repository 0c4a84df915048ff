<script setup lang="ts">
import DialogSheet from '~/components/DialogSheet.vue'

/** All keys on one sheet. */
const open = defineModel<boolean>({ required: true })

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'Play or pause'],
  [', and .', 'Previous frame, next frame; with Shift ten'],
  ['Home and End', 'First frame, last frame'],
  ['Page Up and Page Down', 'Previous arrival, next arrival'],
  ['L', 'Loop'],
  ['[ and ]', 'Loop start and end'],
  ['N', 'Note at the play position'],
  ['B', 'Beat at the play position, with a piece of music selected'],
  ['T', 'Table or lens'],
  ['V', 'Add a shot here'],
  ['S', 'Place stops'],
  ['D', 'Draw by nodes; Enter finishes, Backspace removes the last node'],
  ['F', 'Draw freehand'],
  ['P', 'Follow a road on the map; Enter uses the route that was found'],
  ['Ctrl', 'While drawing: no snapping; Shift: steps of 15 degrees'],
  ['/', 'Find a place by name'],
  ['Esc', 'Back to the selection tool; again: select nothing'],
  ['Arrow keys', 'Move the selection by one film pixel, with Shift by ten; with a tool, move its cross'],
  ['Delete', 'Delete the selection: a stop, nodes, a shot, title, landmark, note or sound'],
  ['Ctrl+A', 'Select all stops of the traveller; Shift+click on the map: one more'],
  ['Ctrl+C', 'Copy the look and timing of a leg, a stop or a shot'],
  ['Ctrl+V', 'Paste the look onto the selection; with Shift the timing'],
  ['Ctrl+Z', 'Undo'],
  ['Ctrl+Shift+Z', 'Redo'],
  ['Wheel', 'Zoom the lens or the table'],
  ['Shift+drag', 'Change bearing and pitch in the lens'],
  ['Ctrl+wheel', 'Zoom the pace strip'],
  ['Ctrl+click', 'On the strip: select several; Shift+click: all up to there'],
  ['Alt', 'Suspend snapping while dragging on the strip'],
  ['?', 'This list'],
]
</script>

<template>
  <DialogSheet v-model="open" title="Keys" :width="960">
    <dl>
      <div v-for="[keys, what] in KEYS" :key="keys">
        <dt>
          <kbd>{{ keys }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </div>
    </dl>
    <template #actions><v-btn variant="text" @click="open = false">Close</v-btn></template>
  </DialogSheet>
</template>

<style scoped>
/* Two columns where there is room. */
dl {
  columns: 400px;
  column-gap: 28px;
}
dl > div {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 14px;
  margin-bottom: 5px;
  break-inside: avoid;
}
kbd {
  font-family: var(--sans);
  font-weight: 600;
}
</style>
