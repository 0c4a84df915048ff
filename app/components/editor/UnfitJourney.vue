<script setup lang="ts">
import { computed, ref } from 'vue'
import { withAutomaticTimes, withFilmForAll } from '#core/edits/pace/film-length'
import type { Journey } from '#core/journey/schema'
import { saveJourney } from '~/services/api'

/** Says why a stored journey cannot be shown, and offers to mend its times. */
const props = defineProps<{ id: string; journey: Journey; revision: number; why: string }>()

const longer = computed(() => withFilmForAll(props.journey))
const automatic = computed(() => withAutomaticTimes(props.journey))
const problem = ref('')

async function mend(mended: Journey) {
  try {
    await saveJourney(props.id, props.revision, mended, [])
    window.location.reload()
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <main class="unfit">
    <h1 class="serif">“{{ journey.name }}” needs mending</h1>
    <p>{{ why }}</p>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <div class="actions">
      <v-btn v-if="longer" color="accent" variant="flat" @click="mend(longer)">Make it {{ longer.seconds }} s long</v-btn>
      <v-btn v-if="automatic" variant="outlined" @click="mend(automatic)">Make all times automatic</v-btn>
      <v-btn variant="text" to="/">All journeys</v-btn>
    </div>
  </main>
</template>

<style scoped>
.unfit {
  display: grid;
  gap: 16px;
  max-width: 640px;
  margin: 15vh auto;
  padding: 0 24px;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
