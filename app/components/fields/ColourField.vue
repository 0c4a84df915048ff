<script setup lang="ts">
import { mdiEyedropperVariant } from '@mdi/js'
import { computed, ref } from 'vue'
import { forgetColour, keepColour } from '#core/edits/journey'
import { HOUSE_COLOURS, LIMITS } from '#core/journey/values'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import FieldRow from './FieldRow.vue'

/**
 * A colour: one of six of the house, one that was kept with the journey, one of the picture, or any other. Emits `change` during a choice and `done` at
 * its end.
 */
const props = defineProps<{ label: string; modelValue: string }>()
const emit = defineEmits<{ change: [value: string]; done: [] }>()
const editor = useEditor()
const stage = useStage()

const kept = computed(() => editor.journey?.colours ?? [])
const isKept = computed(() => kept.value.includes(props.modelValue))
const open = ref(false)

function pick(value: string) {
  if (value !== props.modelValue) emit('change', value.toLowerCase())
}
const choose = (value: string) => (pick(value), emit('done'))
async function pickFromPicture() {
  open.value = false
  const colour = await stage.pickColour()
  if (colour) choose(colour)
}
</script>

<template>
  <FieldRow :label="label" role="group">
    <div class="swatches">
      <button
        v-for="colour in HOUSE_COLOURS"
        :key="colour"
        type="button"
        :class="{ chosen: colour === modelValue }"
        :style="{ background: colour }"
        :aria-label="`${label} ${colour}`"
        :aria-pressed="colour === modelValue"
        @click="choose(colour)"
      />
      <v-menu v-model="open" :close-on-content-click="false">
        <template #activator="{ props: menu }">
          <button
            v-bind="menu"
            type="button"
            class="current"
            :style="{ background: modelValue }"
            :aria-label="`${label}: ${modelValue}; more colours`"
            title="More colours"
          />
        </template>
        <div class="more" role="group" :aria-label="`${label}: more colours`">
          <label class="line">
            Any colour
            <input
              type="color"
              :value="modelValue"
              :aria-label="`${label}, any colour`"
              @input="pick(($event.target as HTMLInputElement).value)"
              @change="emit('done')"
            />
          </label>
          <v-btn size="small" variant="text" :prepend-icon="mdiEyedropperVariant" data-testid="pick-colour" @click="pickFromPicture">
            Pick from the picture
          </v-btn>
          <template v-if="kept.length > 0">
            <p class="title">Saved with the journey</p>
            <div class="swatches wide">
              <button
                v-for="colour in kept"
                :key="colour"
                type="button"
                :class="{ chosen: colour === modelValue }"
                :style="{ background: colour }"
                :aria-label="`${label} ${colour}, kept`"
                :aria-pressed="colour === modelValue"
                @click="choose(colour)"
              />
            </div>
          </template>
          <v-btn v-if="isKept" size="small" variant="text" @click="editor.edit((journey) => forgetColour(journey, modelValue))">
            Remove this colour
          </v-btn>
          <v-btn
            v-else-if="kept.length < LIMITS.colours"
            size="small"
            variant="text"
            data-testid="keep-colour"
            @click="editor.edit((journey) => keepColour(journey, modelValue))"
          >
            Save this colour
          </v-btn>
        </div>
      </v-menu>
    </div>
  </FieldRow>
</template>

<style scoped>
.swatches {
  display: flex;
  gap: 3px;
  align-items: center;
}
.wide {
  flex-wrap: wrap;
  max-width: 216px;
}
.swatches button {
  width: 24px;
  height: 24px;
  flex: none;
  border-radius: 50%;
  border: 1px solid var(--quiet);
  cursor: pointer;
}
.swatches .current {
  width: 28px;
  height: 26px;
  border: 3px solid var(--surface);
  outline: 1px solid var(--rule);
  border-radius: 4px;
}
.swatches .current:focus-visible {
  outline: 2px solid var(--vermilion);
}
.chosen {
  box-shadow:
    0 0 0 2px var(--surface),
    0 0 0 4px var(--vermilion);
}
.more {
  display: grid;
  justify-items: start;
  gap: 4px;
  padding: 10px 12px;
  border-radius: 4px;
  background: var(--surface);
  border: 1px solid var(--rule);
  box-shadow: 0 4px 14px rgba(13, 21, 34, 0.25);
}
.line {
  display: flex;
  align-items: center;
  gap: 10px;
  font-size: 14px;
}
.title {
  font-size: 13px;
  color: var(--quiet);
}
input {
  width: 36px;
  height: 28px;
  padding: 0;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: none;
  cursor: pointer;
}
</style>
