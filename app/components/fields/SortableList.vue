<script setup lang="ts">
import { mdiDragVertical } from '@mdi/js'
import { useTemplateRef } from 'vue'
import { useSortableList } from '~/composables/use-sortable-list'

/** A short list of named things in an order that can be changed by dragging, or with Alt and the arrow keys; plain ones cannot be chosen. */
const props = defineProps<{
  label: string
  entries: readonly { id: string; name: string }[]
  chosen?: string
  testid?: string
  isPlain?: boolean
}>()
const emit = defineEmits<{ choose: [id: string]; move: [from: number, to: number] }>()
const list = useTemplateRef<HTMLElement>('list')
useSortableList(list, move)
function move(from: number, to: number) {
  if (to >= 0 && to < props.entries.length) emit('move', from, to)
}
</script>

<template>
  <ol ref="list" class="list" :aria-label="label">
    <li v-for="({ id, name }, i) in entries" :key="id">
      <button
        type="button"
        class="grip"
        :aria-label="`Move ${name}: drag, or press Alt and an arrow key`"
        title="Drag, or press Alt and an arrow key"
        @keydown.alt.up.prevent.stop="move(i, i - 1)"
        @keydown.alt.down.prevent.stop="move(i, i + 1)"
      >
        <v-icon :icon="mdiDragVertical" size="18" />
      </button>
      <span v-if="isPlain" class="name" :data-testid="testid">{{ name }}</span>
      <button
        v-else
        type="button"
        class="name"
        :class="{ chosen: id === chosen }"
        :aria-current="id === chosen || undefined"
        :data-testid="testid"
        @click="emit('choose', id)"
      >
        {{ name }}
      </button>
    </li>
  </ol>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
  margin-bottom: 6px;
}
li {
  display: flex;
  align-items: center;
}
.grip {
  cursor: grab;
  width: 24px;
  height: 28px;
  color: var(--quiet);
}
.name {
  flex: 1;
  min-width: 0;
  min-height: 28px;
  padding: 2px 6px;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
  border-radius: 3px;
}
button.name {
  cursor: pointer;
}
button.name:hover {
  background: color-mix(in srgb, var(--sea) 12%, transparent);
}
.chosen {
  box-shadow: inset 3px 0 0 var(--vermilion);
}
</style>
