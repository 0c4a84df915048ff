<script setup lang="ts">
import { ref } from 'vue'
import { rename } from '#core/edits/journey'
import { useRouter } from '#imports'
import DialogSheet from '~/components/DialogSheet.vue'
import type { JourneyRecord } from '~/services/api'
import { ApiError, createJourney, readJourney, restoreJourney } from '~/services/api'
import { useEditor } from '~/stores/editor'

/** Resolves a conflict of two windows, of which one has changed or deleted what the other is editing; nothing is lost on either side. */
const props = defineProps<{ id: string; conflict: 'changed' | 'deleted' | undefined }>()
const emit = defineEmits<{ overwrite: [revision: number]; take: [record: JourneyRecord]; leaving: [] }>()
const editor = useEditor()
const router = useRouter()
const problem = ref('')

async function attempt(run: () => Promise<void>) {
  problem.value = ''
  try {
    await run()
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  }
}

/** Keeps the other window's version as a copy, and saves this one over it. */
const keepMine = () =>
  attempt(async () => {
    const other = await readJourney(props.id)
    await createJourney(rename(other.journey, `${other.journey.name.slice(0, 100)} (other window)`))
    emit('overwrite', other.revision)
  })

/** Continues with the other window's version; undo brings this one back. */
const takeOther = () => attempt(async () => emit('take', await readJourney(props.id)))

/** Brings the deleted journey back, as it is in this window. */
const bringBack = () =>
  attempt(async () => {
    await restoreJourney(props.id)
    emit('overwrite', (await readJourney(props.id)).revision)
  })

/** Gives up this version; the journey stays deleted. */
const letGo = () =>
  attempt(async () => {
    emit('leaving')
    await router.replace('/')
  })

/** Keeps this version as a copy and continues in it; the other one stays as it is. */
const keepBoth = () =>
  attempt(async () => {
    const mine = editor.document!
    const copy = await createJourney(rename(mine, `${mine.name.slice(0, 100)} (this window)`))
    emit('leaving')
    await router.replace(`/journeys/${copy.id}`)
  })
</script>

<template>
  <DialogSheet :model-value="conflict === 'deleted'" title="Deleted in another window" fixed>
    <p>This journey was deleted while you were editing it here. Your version is still in this window.</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template #actions>
      <v-btn color="accent" variant="flat" data-testid="restore-deleted" @click="bringBack">Bring it back</v-btn>
      <v-btn variant="outlined" @click="keepBoth">Continue in a copy</v-btn>
      <v-btn variant="outlined" color="error" @click="letGo">Leave it deleted</v-btn>
    </template>
  </DialogSheet>
  <DialogSheet :model-value="conflict === 'changed'" title="Changed in another window" fixed>
    <p>
      This journey was saved from another window since you opened it here. Your changes are still in this window, and stay a step away with
      Undo if you use the other version.
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template #actions>
      <v-btn color="accent" variant="flat" @click="keepBoth">Continue in a copy of mine</v-btn>
      <v-btn variant="outlined" @click="keepMine">Save mine and keep the other as a copy</v-btn>
      <v-btn variant="outlined" data-testid="take-other" @click="takeOther">Use the other version</v-btn>
    </template>
  </DialogSheet>
</template>

<style scoped>
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
