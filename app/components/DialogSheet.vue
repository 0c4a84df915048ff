<script setup lang="ts">
import { useId } from 'vue'

/** A dialog on a sheet of paper, with a title and a row of buttons. `fixed` keeps it open until one of them is pressed. */
withDefaults(defineProps<{ title: string; width?: number; fixed?: boolean }>(), { width: 520 })
const open = defineModel<boolean>({ required: true })
const id = useId()
</script>

<template>
  <v-dialog v-model="open" :persistent="fixed" :max-width="width" :aria-labelledby="id">
    <div class="sheet">
      <h2 :id="id" class="serif">{{ title }}</h2>
      <slot />
      <div class="actions"><slot name="actions" /></div>
    </div>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 14px;
  max-height: calc(100dvh - 48px);
  padding: 20px 24px 0;
  overflow-y: auto;
  background: var(--surface);
  color: var(--ink);
  border-radius: 6px;
}
h2 {
  font-size: 27px;
  line-height: 1.1;
}
/* Always in sight, however much there is above. */
.actions {
  position: sticky;
  bottom: 0;
  z-index: 1;
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 8px;
  padding: 6px 0 20px;
  background: var(--surface);
}
</style>
