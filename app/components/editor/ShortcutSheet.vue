<script setup lang="ts">
/** All keys on one sheet. */
const open = defineModel<boolean>({ required: true })

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'Play or pause'],
  [', and .', 'One frame back, one frame on; with Shift ten'],
  ['Home and End', 'First frame, last frame'],
  ['L', 'Loop'],
  ['T', 'Table or lens'],
  ['S', 'Place stops'],
  ['Esc', 'Back to selecting; then select nothing'],
  ['Arrow keys', 'Nudge the selected stop by a pixel of the film; with Shift ten'],
  ['Delete', 'Delete the selected stop'],
  ['Ctrl+Z', 'Undo'],
  ['Ctrl+Shift+Z', 'Redo'],
  ['Wheel', 'Scale the sheet in the lens, or the table'],
  ['Ctrl+wheel', 'On the pace strip: show more or less time'],
  ['?', 'This sheet'],
]
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-labelledby="keys-title">
    <div class="sheet">
      <h2 id="keys-title" class="serif">Keys</h2>
      <dl>
        <template v-for="[keys, what] in KEYS" :key="keys">
          <dt>
            <kbd>{{ keys }}</kbd>
          </dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <v-btn variant="text" @click="open = false">Close</v-btn>
    </div>
  </v-dialog>
</template>

<style scoped>
.sheet {
  padding: 20px 24px;
  background: var(--surface);
  color: var(--ink);
  border-radius: 6px;
}
h2 {
  font-size: 26px;
  margin-bottom: 8px;
}
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 5px 14px;
  margin-bottom: 12px;
}
kbd {
  font-family: var(--sans);
  font-weight: 600;
}
</style>
