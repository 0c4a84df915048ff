<script setup lang="ts">
import { mdiVideoOutline } from '@mdi/js'
import { computed } from 'vue'
import { setPlan } from '#core/edits/camera/shots'
import { useEditor } from '~/stores/editor'
import { PLANS } from './shot-names'

/** How the camera films by itself, where the film is watched. */
const editor = useEditor()
const chosen = computed(() => PLANS.find(({ value }) => value === (editor.journey!.plan.temperament ?? 'none'))!)
</script>

<template>
  <v-menu>
    <template #activator="{ props: menu }">
      <button v-bind="menu" type="button" class="plan" :aria-label="`Plan of the camera: ${chosen.title}`" data-testid="plan-menu">
        <v-icon :icon="mdiVideoOutline" size="18" />
        {{ chosen.title }}
      </button>
    </template>
    <v-list density="compact" aria-label="Camera plan" max-width="320">
      <v-list-item
        v-for="{ value, title, about } in PLANS"
        :key="value"
        :active="value === chosen.value"
        :title="title"
        :subtitle="about"
        lines="two"
        :data-testid="`plan-${value}`"
        @click="editor.edit((j) => setPlan(j, value === 'none' ? null : value))"
      />
    </v-list>
  </v-menu>
</template>

<style scoped>
.plan {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  min-height: 32px;
  padding: 0 8px;
  font-size: 14px;
  font-weight: 600;
  border-radius: 4px;
  cursor: pointer;
}
.plan:hover {
  background: color-mix(in srgb, var(--ink) 8%, transparent);
}
</style>
