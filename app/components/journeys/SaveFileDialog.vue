<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { computed, ref, shallowRef, watch } from 'vue'
import { JOURNEY_FILE_ENDING } from '#core/formats/journey-file'
import type { FileKind } from '#core/journey/files'
import DialogSheet from '~/components/DialogSheet.vue'
import type { JourneyFileContents } from '~/services/api'
import { ApiError, journeyFileAddress, journeyFileContents } from '~/services/api'
import { megabytes } from '~/services/sizes'

/** Saves a journey as one file, with all that it needs. */
const journey = defineModel<{ id: string; name: string } | undefined>({ required: true })

const contents = shallowRef<JourneyFileContents>()
const withVersions = ref(false)
const problem = ref('')

watch(
  journey,
  async (wanted) => {
    contents.value = undefined
    problem.value = ''
    if (!wanted) return
    try {
      const found = await journeyFileContents(wanted.id)
      if (journey.value === wanted) contents.value = found
    } catch (error) {
      problem.value = error instanceof ApiError ? error.message : String(error)
    }
  },
  { immediate: true },
)

const WORDS: Readonly<Record<FileKind, readonly [one: string, many: string]>> = {
  images: ['map or picture', 'maps and pictures'],
  fonts: ['font', 'fonts'],
  audio: ['piece of sound', 'pieces of sound'],
  luts: ['LUT', 'LUTs'],
}
const shown = computed(() => contents.value?.[withVersions.value ? 'whole' : 'plain'])
const pieces = computed(() => shown.value?.kinds.filter(({ count }) => count > 0) ?? [])
const bytes = computed(() => pieces.value.reduce((sum, piece) => sum + piece.bytes, 0))
</script>

<template>
  <DialogSheet
    :model-value="journey !== undefined"
    title="Save as a file"
    :width="480"
    @update:model-value="(isOpen) => !isOpen && (journey = undefined)"
  >
    <p>
      “{{ journey?.name }}” with all that it needs: a copy to keep, or to open in another Zephyrine by dropping it on the list of journeys.
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="contents && shown">
      <ul class="pieces figures" data-testid="file-contents">
        <li v-for="{ kind, count, bytes: own } in pieces" :key="kind">
          <span>{{ count }} {{ WORDS[kind][count === 1 ? 0 : 1] }}</span>
          <span class="quiet">{{ megabytes(own) }}</span>
        </li>
        <li v-if="pieces.length === 0">No maps, pictures or sounds</li>
        <li v-if="pieces.length > 1">
          <span>In all</span><span class="quiet">{{ megabytes(bytes) }}</span>
        </li>
      </ul>
      <v-switch
        v-if="contents.whole.versions > 0"
        v-model="withVersions"
        :label="
          contents.whole.versions === 1 ? 'With the version that was kept' : `With the ${contents.whole.versions} versions that were kept`
        "
        color="accent"
        density="compact"
        hide-details
        data-testid="file-versions"
      />
      <p class="quiet">
        The file lists whom to credit. Fonts and music go with it as they are: pass it on only where their licences allow.
      </p>
      <ul v-if="shown.missing.length > 0" class="problem">
        <li v-for="sentence in shown.missing" :key="sentence">{{ sentence }}</li>
      </ul>
    </template>
    <template #actions>
      <v-btn variant="text" @click="journey = undefined">Cancel</v-btn>
      <v-btn
        color="accent"
        variant="flat"
        :prepend-icon="mdiDownload"
        :disabled="!contents"
        :href="journey && journeyFileAddress(journey.id, withVersions)"
        :download="`${journey?.name}${JOURNEY_FILE_ENDING}`"
        data-testid="save-file"
        @click="journey = undefined"
        >Save the file</v-btn
      >
    </template>
  </DialogSheet>
</template>

<style scoped>
.pieces,
.problem {
  list-style: none;
  margin: 0;
  padding: 0;
}
.pieces li {
  display: flex;
  justify-content: space-between;
}
.problem {
  color: var(--vermilion);
}
</style>
