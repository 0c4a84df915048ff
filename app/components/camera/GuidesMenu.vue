<script setup lang="ts">
import { mdiGrid } from '@mdi/js'
import type { Guides } from '~/stores/stage'
import { useStage } from '~/stores/stage'
import ToolButton from '~/components/stage/ToolButton.vue'

/** Which guides are seen over the lens. */
const stage = useStage()
const TITLES: Readonly<Record<keyof Guides, string>> = {
  safe: 'Safe areas (90 and 80 %)',
  thirds: 'Thirds',
  crops: 'Crops of other frame shapes',
}
const toggle = (key: keyof Guides) => (stage.guides = { ...stage.guides, [key]: !stage.guides[key] })
</script>

<template>
  <v-menu :close-on-content-click="false">
    <template #activator="{ props: menu }">
      <ToolButton
        v-bind="menu"
        :icon="mdiGrid"
        label="Guides in the lens"
        :pressed="Object.values(stage.guides).some(Boolean)"
        data-testid="guides-menu"
      />
    </template>
    <v-list density="compact" aria-label="Guides in the lens">
      <v-list-item
        v-for="(title, key) in TITLES"
        :key="key"
        role="menuitemcheckbox"
        :aria-checked="stage.guides[key]"
        :active="stage.guides[key]"
        :title="title"
        @click="toggle(key)"
      />
    </v-list>
  </v-menu>
</template>
