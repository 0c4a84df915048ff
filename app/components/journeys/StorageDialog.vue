<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { SHEET_FORMATS } from '#core/sheet/limits'
import { coarsestLevel } from '#core/sheet/pyramid'
import { SOUND_RATE } from '#core/sound/pcm'
import DialogSheet from '~/components/DialogSheet.vue'
import { tileAddress } from '~/services/addresses'
import type { Storage } from '~/services/api'
import { ApiError, deleteKept, exportAddress, readStorage, removeExport, restoreJourney } from '~/services/api'
import { megabytes } from '~/services/sizes'

/** Sound is kept as two channels of 16-bit integers. */
const BYTES_PER_SECOND = 4 * SOUND_RATE

/** What takes up room on the disk, and what can be deleted or restored of it. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ restored: [] }>()

const stored = ref<Storage>()
const problem = ref('')
const total = computed(() => {
  const { films = [], pictures = [], audio = [], fonts = [], luts = [] } = stored.value ?? {}
  return [...films, ...pictures, ...audio, ...fonts, ...luts].reduce((sum, { bytes }) => sum + bytes, 0)
})

/** A file that is kept, in words, and a small picture of it if it is one. */
interface Kept {
  hash: string
  bytes: number
  isUsed: boolean
  label: string
  small?: string
}

/** What nobody uses first: that can go. */
const inTurn = (list: readonly Kept[]): Kept[] => [...list].sort((a, b) => Number(a.isUsed) - Number(b.isUsed) || b.bytes - a.bytes)

const kinds = computed(() => {
  const { pictures = [], audio = [], fonts = [], luts = [] } = stored.value ?? {}
  const shown = pictures.map((picture) => ({
    ...picture,
    label: `${SHEET_FORMATS[picture.format].label}, ${picture.width} × ${picture.height}`,
    small: tileAddress(picture.hash, { level: coarsestLevel(picture), column: 0, row: 0 }),
  }))
  const heard = audio.map((sound) => ({ ...sound, label: sound.name ?? `Sound of ${Math.round(sound.bytes / BYTES_PER_SECOND)} s` }))
  return [
    { kind: 'images' as const, title: 'Pictures', list: inTurn(shown) },
    { kind: 'audio' as const, title: 'Music and speech', list: inTurn(heard) },
    { kind: 'fonts' as const, title: 'Fonts', list: inTurn(fonts.map((font) => ({ ...font, label: font.name ?? 'Font' }))) },
    { kind: 'luts' as const, title: 'LUTs', list: inTurn(luts.map((lut) => ({ ...lut, label: lut.name ?? 'LUT' }))) },
  ]
})

async function attempt(run: () => Promise<unknown>) {
  problem.value = ''
  try {
    await run()
    stored.value = await readStorage()
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  }
}
watch(open, (isOpen) => isOpen && void attempt(async () => undefined))

const restore = (id: string) =>
  attempt(async () => {
    await restoreJourney(id)
    emit('restored')
  })
const clock = (time: number) => new Date(time).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <DialogSheet v-model="open" title="Storage" :width="640">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="stored">
      <p class="figures">All of this takes up {{ megabytes(total) }}.</p>
      <section aria-labelledby="deleted-journeys">
        <h3 id="deleted-journeys">Deleted journeys</h3>
        <p v-if="stored.deleted.length === 0" class="quiet">None. A deleted journey can be restored for a week.</p>
        <ul>
          <li v-for="journey in stored.deleted" :key="journey.id">
            <span class="name">{{ journey.name }}</span>
            <span class="quiet figures">deleted {{ clock(journey.deletedAt) }}</span>
            <v-btn size="small" variant="outlined" data-testid="restore" @click="restore(journey.id)">Restore</v-btn>
          </li>
        </ul>
      </section>
      <section aria-labelledby="stored-films">
        <h3 id="stored-films">Films</h3>
        <p v-if="stored.films.length === 0" class="quiet">None.</p>
        <ul>
          <li v-for="film in stored.films" :key="film.id">
            <a class="name" :href="exportAddress(film.id)" download>{{ film.name }}</a>
            <span class="quiet figures">{{ clock(film.createdAt) }}, {{ megabytes(film.bytes) }}</span>
            <v-btn size="small" variant="outlined" color="error" data-testid="delete-film" @click="attempt(() => removeExport(film.id))">
              Delete
            </v-btn>
          </li>
        </ul>
      </section>
      <section v-for="{ kind, title, list } in kinds" :key="kind" :aria-labelledby="`stored-${kind}`">
        <h3 :id="`stored-${kind}`">{{ title }}</h3>
        <p v-if="list.length === 0" class="quiet">None.</p>
        <ul>
          <li v-for="{ hash, label, small, bytes, isUsed } in list" :key="hash">
            <img v-if="small" :src="small" alt="" />
            <span class="name figures">{{ label }}</span>
            <span class="quiet figures">{{ megabytes(bytes) }}</span>
            <span v-if="isUsed" class="quiet used">In use</span>
            <v-btn
              v-else
              size="small"
              variant="outlined"
              color="error"
              :data-testid="`delete-${kind}`"
              @click="attempt(() => deleteKept(kind, hash))"
            >
              Delete
            </v-btn>
          </li>
        </ul>
      </section>
      <p class="quiet">
        Pictures, sounds and fonts that no journey has used for two days are deleted when Zephyrine starts. Undo cannot bring back steps
        that need them.
      </p>
    </template>
    <template #actions><v-btn variant="text" @click="open = false">Close</v-btn></template>
  </DialogSheet>
</template>

<style scoped>
h3 {
  font-size: 14px;
  margin-bottom: 4px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 26vh;
  overflow-y: auto;
}
li {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 40px;
  border-bottom: 1px solid var(--rule);
}
.name {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
  color: var(--ink);
}
img {
  width: 52px;
  height: 34px;
  object-fit: cover;
  border-radius: 3px;
}
.used,
li .v-btn {
  width: 72px;
  text-align: center;
}
.quiet {
  color: var(--quiet);
  font-size: 14px;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
