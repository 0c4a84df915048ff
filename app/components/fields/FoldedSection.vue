<script setup lang="ts">
import { mdiChevronDown, mdiChevronRight } from '@mdi/js'
import { useSessionStorage } from '@vueuse/core'

/** A folding section of the details; which ones are open is remembered while the window is. */
const props = defineProps<{ title: string; note?: string }>()
const open = useSessionStorage(`zephyrine-open-${props.title}`, false)
</script>

<template>
  <section class="folded" :aria-label="title">
    <button type="button" class="head" :aria-expanded="open" @click="open = !open">
      <v-icon :icon="open ? mdiChevronDown : mdiChevronRight" size="18" />
      <span class="title">{{ title }}</span>
      <span v-if="note" class="note">{{ note }}</span>
    </button>
    <div v-if="open" class="inside"><slot /></div>
  </section>
</template>

<style scoped>
.folded {
  border-top: 1px solid var(--rule);
}
.head {
  display: flex;
  align-items: center;
  gap: 4px;
  width: 100%;
  min-height: 34px;
  text-align: left;
  cursor: pointer;
}
.title {
  font-size: 14px;
  font-weight: 600;
}
.note {
  margin-left: auto;
  font-size: 13px;
  color: var(--quiet);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.inside {
  padding-bottom: 12px;
}
</style>
