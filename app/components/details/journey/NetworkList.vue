<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { nanoid } from 'nanoid'
import { ref } from 'vue'
import { MOST_NETWORK_BYTES, readNetworkLines } from '#core/formats/network'
import { JourneyError } from '#core/error'
import { addNetworks, removeNetwork } from '#core/edits/lines/networks'
import { MODE_NAMES } from '#core/network/modes'
import { chooseFiles } from '~/services/choose-files'
import { useEditor } from '~/stores/editor'

/** The networks that legs can follow: imported as GeoJSON, or drawn leg by leg. */
const editor = useEditor()
const problem = ref('')

async function read(file: File) {
  problem.value = ''
  try {
    const { geo } = editor
    if (!geo) throw new JourneyError('Lines in degrees need a georeferenced map: see the sheet’s details.')
    if (file.size > MOST_NETWORK_BYTES)
      throw new JourneyError(`“${file.name}” is larger than ${MOST_NETWORK_BYTES / 1024 ** 2} MiB: cut out the part you need.`)
    const lines = readNetworkLines(await file.text(), file.name, 'road', (at) => geo.toGround(at))
    const ids = { road: nanoid(10), rail: nanoid(10), water: nanoid(10) }
    editor.edit((journey) => addNetworks(journey, file.name.replace(/\.\w+$/, ''), lines, ids))
  } catch (error) {
    if (!(error instanceof JourneyError)) throw error
    problem.value = error.message
  }
}

const choose = () => chooseFiles(['.geojson', '.json'], false, ([file]) => read(file!))
</script>

<template>
  <p class="quiet">Legs can follow the roads, railways and ferry lines of the journey’s networks, which stand in for a routing service.</p>
  <ul v-if="editor.journey!.networks.length > 0" class="rows" aria-label="Networks">
    <li v-for="network in editor.journey!.networks" :key="network.id" data-testid="network">
      <span class="name">{{ network.name || MODE_NAMES[network.mode] }}</span>
      <span class="note figures"
        >{{ MODE_NAMES[network.mode] }}, {{ network.lines.length }} {{ network.lines.length === 1 ? 'line' : 'lines' }}</span
      >
      <button
        type="button"
        class="act"
        :aria-label="`Delete ${network.name || MODE_NAMES[network.mode]}`"
        @click="editor.edit((j) => removeNetwork(j, network.id))"
      >
        <v-icon :icon="mdiDeleteOutline" size="17" />
      </button>
    </li>
  </ul>
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  <div class="buttons">
    <v-btn size="small" variant="outlined" data-testid="open-network" @click="choose">Import lines (GeoJSON) …</v-btn>
  </div>
</template>

<style scoped>
.rows {
  margin-top: 6px;
}
.rows > li {
  gap: 8px;
  padding-left: 6px;
}
.problem {
  margin-top: 6px;
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-error));
}
</style>
