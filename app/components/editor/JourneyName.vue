<script setup lang="ts">
import { rename } from '#core/edits/journey'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/**
 * The name of the journey, in the bar. A component of its own: whatever else is in the bar may be another at any moment, and being rendered again would put the
 * old name in the place of one that is being typed.
 */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'journey')

function leaveName(event: KeyboardEvent) {
  const input = event.target as HTMLInputElement
  input.value = editor.journey!.name
  input.blur()
}
function setName(event: Event) {
  const input = event.target as HTMLInputElement
  const name = input.value.trim()
  if (name) change('name', (journey) => rename(journey, name))
  else input.value = editor.journey!.name
  done()
}
</script>

<template>
  <input
    class="name serif"
    aria-label="Name of the journey"
    data-testid="journey-name"
    maxlength="120"
    :value="editor.journey!.name"
    @change="setName"
    @keydown.enter="($event.target as HTMLInputElement).blur()"
    @keydown.esc.stop="leaveName"
  />
</template>

<style scoped>
.name {
  /* In a narrow window it gives way to the buttons. */
  flex: 0 1 min(420px, 34vw);
  min-width: 90px;
  padding: 2px 8px;
  font-size: 24px;
  font-weight: 700;
  border-radius: 4px;
  text-overflow: ellipsis;
}
.name:hover {
  background: color-mix(in srgb, var(--sea) 10%, transparent);
}
</style>
