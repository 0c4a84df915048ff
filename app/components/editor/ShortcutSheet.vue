<script setup lang="ts">
import DialogSheet from '~/components/DialogSheet.vue'

/** All keys on one sheet. */
const open = defineModel<boolean>({ required: true })

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'Play or pause'],
  [', and .', 'One frame back, one frame on; with Shift ten'],
  ['Home and End', 'First frame, last frame'],
  ['L', 'Loop'],
  ['T', 'Table or lens'],
  ['S', 'Place stops'],
  ['D', 'Draw the route node by node; Enter finishes, Backspace takes a node back'],
  ['F', 'Draw the route freehand'],
  ['P', 'Follow the road in the picture; Enter takes the way that was found'],
  ['Ctrl', 'Held while drawing: do not snap; Shift: keep to steps of 15 degrees'],
  ['/', 'Find a place by name'],
  ['Esc', 'Back to selecting; then select nothing'],
  ['Arrow keys', 'Nudge the selected stop or nodes by a pixel of the film; with Shift ten'],
  ['Delete', 'Delete the selected stop or nodes'],
  ['Ctrl+Z', 'Undo'],
  ['Ctrl+Shift+Z', 'Redo'],
  ['Wheel', 'Scale the sheet in the lens, or the table'],
  ['Ctrl+wheel', 'On the pace strip: show more or less time'],
  ['?', 'This sheet'],
]
</script>

<template>
  <DialogSheet v-model="open" title="Keys" :width="560">
    <dl>
      <template v-for="[keys, what] in KEYS" :key="keys">
        <dt>
          <kbd>{{ keys }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
    <template #actions><v-btn variant="text" @click="open = false">Close</v-btn></template>
  </DialogSheet>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 5px 14px;
}
kbd {
  font-family: var(--sans);
  font-weight: 600;
}
</style>
