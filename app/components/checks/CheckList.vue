<script setup lang="ts">
import { computed } from 'vue'
import type { Finding } from '#core/checks/finding'
import { keyOf } from '#core/checks/finding'
import { acceptFinding, tellFindingAgain } from '#core/edits/journey'
import { mendOf } from '#core/edits/mend-finding'
import CameraChecks from '~/components/camera/CameraChecks.vue'
import { useCamera } from '~/stores/camera'
import { useChecks } from '~/stores/checks'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'

/** What would look wrong in the film: a click goes there, mends it where one change does, or says that it is as it should be. */
const editor = useEditor()
const playback = usePlayback()
const camera = useCamera()
const checks = useChecks()

/** Names without room are looked for by who places them. */
const crowded = computed(() => {
  const isCrowded = ({ id }: { id: string }) => editor.crowdedLabels.has(id)
  return [
    ...editor.journey!.stops.filter(isCrowded).map(({ id, name }) => ({ kind: 'stop' as const, id, name })),
    ...editor.journey!.landmarks.filter(isCrowded).map(({ id, name }) => ({ kind: 'landmark' as const, id, name })),
  ]
})
const list = computed(() => checks.open.map((finding) => ({ finding, mend: mendOf(finding, editor.compiled!) })))

/** Goes to the moment, and selects what it is about. */
function show({ subject, at }: Finding) {
  if (at !== null) playback.goToTime(at)
  if (subject.kind === 'card') editor.select({ kind: 'stop', id: subject.stop })
  else if (subject.kind !== 'film') editor.select({ kind: subject.kind, id: subject.id })
}
</script>

<template>
  <p v-if="checks.count === 0" class="quiet">
    Nothing found: names, cards and titles can be read, and the camera moves at a comfortable speed.
  </p>
  <CameraChecks :checks="camera.checks" />
  <p v-if="crowded.length > 0" class="flag" role="status" data-testid="crowded-names">
    Names that overlap something at times:
    <button v-for="mark in crowded" :key="mark.id" type="button" class="link" @click="editor.select({ kind: mark.kind, id: mark.id })">
      {{ mark.name }}
    </button>
  </p>
  <ul v-if="list.length > 0" class="findings" aria-label="Findings">
    <li v-for="{ finding, mend } in list" :key="keyOf(finding)" data-testid="finding">
      <button type="button" class="told" @click="show(finding)">{{ finding.text }}</button>
      <div class="mends">
        <v-btn v-if="mend" size="x-small" variant="outlined" @click="editor.edit(mend.run)">{{ mend.title }}</v-btn>
        <v-btn size="x-small" variant="text" @click="editor.edit((j) => acceptFinding(j, keyOf(finding)))">Accept</v-btn>
      </div>
    </li>
  </ul>
  <template v-if="checks.accepted.length > 0">
    <h4>Accepted</h4>
    <ul class="findings accepted" aria-label="Accepted findings">
      <li v-for="finding in checks.accepted" :key="keyOf(finding)" data-testid="accepted-finding">
        <button type="button" class="told" @click="show(finding)">{{ finding.text }}</button>
        <div class="mends">
          <v-btn size="x-small" variant="text" @click="editor.edit((j) => tellFindingAgain(j, keyOf(finding)))">Tell again</v-btn>
        </div>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.findings {
  display: grid;
  gap: 6px;
  margin: 6px 0 10px;
  padding: 0;
  list-style: none;
  font-size: 13px;
}
li {
  display: grid;
  gap: 4px;
  padding-left: 8px;
  border-left: 3px solid var(--brass);
}
.accepted li {
  border-color: var(--rule);
  color: var(--quiet);
}
h4 {
  margin: 0;
  font-size: 13px;
}
.mends {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.told {
  text-align: left;
  cursor: pointer;
}
.told:hover {
  text-decoration: underline;
}
</style>
