<script setup lang="ts">
import { mdiMusicNotePlus } from '@mdi/js'
import { computed } from 'vue'
import { setSound } from '#core/edits/pace/audio'
import type { SoundKind } from '#core/journey/schema'
import { LIMITS, SOUND_KINDS } from '#core/journey/schema'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { useSound } from '~/stores/sound'

/** Music and speech of the journey, and the sounds that its pins and vehicles make. */
const editor = useEditor()
const sound = useSound()
const { change, done } = useFieldEdits(() => 'sounds')
const journey = computed(() => editor.journey!)

const NAMES: Readonly<Record<SoundKind, string>> = {
  pin: 'Pins pop',
  'take-off': 'Take-off',
  engine: 'Engines',
  oars: 'Oars',
  rails: 'Rails',
  bell: 'Bicycle bell',
}
</script>

<template>
  <ul v-if="journey.audio.length > 0" class="rows" aria-label="Music and speech">
    <li v-for="piece in journey.audio" :key="piece.id">
      <button type="button" class="choose" data-testid="audio-piece" @click="editor.select({ kind: 'audio', id: piece.id })">
        <span class="name">{{ piece.name }}</span>
        <span class="note figures">from {{ piece.offset.toFixed(1) }} s</span>
      </button>
    </li>
  </ul>
  <div v-if="sound.adding" class="buttons">
    <p class="quiet">Reading “{{ sound.adding.name }}” …</p>
    <v-btn size="small" variant="outlined" @click="sound.adding.cancel()">Cancel</v-btn>
  </div>
  <div v-else class="buttons">
    <v-btn
      size="small"
      variant="outlined"
      :prepend-icon="mdiMusicNotePlus"
      data-testid="add-audio"
      :disabled="journey.audio.length >= LIMITS.audio"
      @click="sound.choose()"
      >Add music or speech</v-btn
    >
  </div>
  <h4>Sounds of the film</h4>
  <PercentSlider
    v-for="kind in SOUND_KINDS"
    :key="kind"
    :label="NAMES[kind]"
    :model-value="journey.sounds[kind]"
    @change="(level) => change(kind, (j) => setSound(j, kind, level))"
    @done="done"
  />
</template>

<style scoped>
h4 {
  margin: 10px 0 2px;
  font-size: 14px;
  font-weight: 600;
}
</style>
