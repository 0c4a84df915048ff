<script setup lang="ts">
import { mdiCompare, mdiDeleteOutline, mdiRestore } from '@mdi/js'
import { format } from 'date-fns'
import { onMounted, ref } from 'vue'
import { useStage } from '~/stores/stage'
import { useVersions } from '~/stores/versions'
import type { Version } from '~/services/api'

/** The versions of the journey: to keep it as it is now, to compare it with what it was, and to go back. */
const versions = useVersions()
const stage = useStage()
const name = ref('')

onMounted(() => void versions.load())

async function keep() {
  const kept = await versions.keep(name.value.trim() || versions.nextName)
  if (kept) name.value = ''
}
async function compare(version: Version) {
  if (versions.compared?.version.id === version.id) return void (versions.compared = undefined)
  stage.setMode('lens')
  await versions.compare(version)
}
</script>

<template>
  <form class="keep" @submit.prevent="keep">
    <v-text-field
      v-model="name"
      aria-label="Name of the version"
      maxlength="60"
      :placeholder="versions.nextName"
      persistent-placeholder
      data-testid="version-name"
    />
    <v-btn type="submit" size="small" variant="outlined" data-testid="keep-version">Keep</v-btn>
  </form>
  <p v-if="versions.failure" class="error" role="alert">{{ versions.failure }}</p>
  <ul v-if="versions.versions && versions.versions.length > 0" class="versions" aria-label="Versions">
    <li v-for="version in versions.versions" :key="version.id" data-testid="version">
      <span class="name">
        {{ version.name }}
        <span class="quiet figures">{{ format(version.createdAt, 'd MMM, HH:mm') }}</span>
      </span>
      <v-btn
        :icon="mdiCompare"
        size="x-small"
        variant="text"
        :color="versions.compared?.version.id === version.id ? 'primary' : undefined"
        :aria-pressed="versions.compared?.version.id === version.id"
        :aria-label="`Compare with “${version.name}”`"
        title="Compare with it"
        @click="compare(version)"
      />
      <v-btn
        :icon="mdiRestore"
        size="x-small"
        variant="text"
        :aria-label="`Go back to “${version.name}”`"
        title="Go back to it"
        @click="versions.goBackTo(version)"
      />
      <v-btn
        :icon="mdiDeleteOutline"
        size="x-small"
        variant="text"
        :aria-label="`Delete “${version.name}”`"
        title="Delete it"
        @click="versions.remove(version)"
      />
    </li>
  </ul>
  <p v-else-if="versions.versions" class="quiet">Keep the journey as it is now, to compare it later or go back to it.</p>
</template>

<style scoped>
.keep {
  display: flex;
  gap: 8px;
  align-items: center;
}
.keep > :first-child {
  flex: 1;
}
.versions {
  list-style: none;
  padding: 0;
  margin-top: 6px;
}
.versions li {
  display: flex;
  align-items: center;
  min-height: 32px;
}
.name {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.error {
  color: var(--vermilion);
}
</style>
