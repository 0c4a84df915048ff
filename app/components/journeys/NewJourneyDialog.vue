<script setup lang="ts">
import { computed, ref, useId, watch } from 'vue'
import type { Aspect } from '#core/journey/create'
import { createJourney as emptyJourney, DEFAULT_FRAME, DEFAULT_SECONDS, FRAME_SIZES } from '#core/journey/create'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, frameCount, rateLabel } from '#core/pace/rate'
import DialogSheet from '~/components/DialogSheet.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { setGround } from '#core/edits/ground/sheets'
import { setPlan } from '#core/edits/camera/shots'
import { boundsOf } from '#core/journey/bounds'
import type { Journey } from '#core/journey/schema'
import { journeySchema } from '#core/journey/schema'
import { ApiError, createJourney } from '~/services/api'

/** Asks for frame size, frame rate and length at the start. All can be changed later. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ made: [id: string] }>()

const name = ref('')
const aspect = ref<Aspect>('16:9')
const size = ref('')
const rate = ref<FrameRate>(DEFAULT_FRAME.rate)
const seconds = ref(DEFAULT_SECONDS)
const problem = ref('')
const busy = ref(false)
const formId = useId()

const aspects = Object.keys(FRAME_SIZES) as Aspect[]
const sizes = computed(() =>
  FRAME_SIZES[aspect.value].map(([title, width, height]) => ({ value: `${width}x${height}`, title: `${title} (${width} × ${height})` })),
)
const rates = FRAME_RATES.map((value) => ({ value, title: rateLabel(value) }))
watch(aspect, () => (size.value = sizes.value[1]!.value), { immediate: true })
watch(open, (isOpen) => {
  if (!isOpen) return
  name.value = 'New journey'
  problem.value = ''
})

/** With a camera that needs no setting up, and stays on the map. */
const filmingByItself = (journey: Journey): Journey => setPlan(setGround(journey, { edge: 'held' }), 'calm')

async function make() {
  busy.value = true
  problem.value = ''
  const [width, height] = size.value.split('x').map(Number)
  try {
    const record = await createJourney(
      filmingByItself(
        emptyJourney(name.value.trim() || 'New journey', { width: width!, height: height!, rate: rate.value }, seconds.value),
      ),
    )
    open.value = false
    emit('made', record.id)
  } catch (error) {
    problem.value = error instanceof ApiError ? error.message : String(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <DialogSheet v-model="open" title="New journey">
    <form :id="formId" class="form" @submit.prevent="make">
      <v-text-field
        v-model="name"
        label="Name"
        autofocus
        maxlength="120"
        data-testid="new-name"
        @focus="($event.target as HTMLInputElement).select()"
      />
      <div class="shapes" role="radiogroup" aria-label="Frame shape">
        <button
          v-for="shape in aspects"
          :key="shape"
          type="button"
          role="radio"
          :aria-checked="shape === aspect"
          :class="{ chosen: shape === aspect }"
          @click="aspect = shape"
        >
          <span class="figure" :style="{ aspectRatio: shape.replace(':', ' / ') }" />
          {{ shape }}
        </button>
      </div>
      <v-select v-model="size" :items="sizes" label="Frame size" />
      <div class="row">
        <v-select v-model="rate" :items="rates" label="Frame rate" hint="Match your footage" persistent-hint />
        <NumberField
          :model-value="seconds"
          v-bind="boundsOf(journeySchema, 'seconds')"
          :step="1"
          :precision="2"
          unit="s"
          label="Length"
          hint="About 5 s for each stop"
          persistent-hint
          @change="(value) => (seconds = value)"
        />
      </div>
      <p class="quiet figures">{{ frameCount(seconds, rate) }} frames. All of this can be changed later.</p>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </form>
    <template #actions>
      <v-btn variant="text" @click="open = false">Cancel</v-btn>
      <v-btn color="accent" variant="flat" type="submit" :form="formId" :loading="busy" data-testid="make-journey">Start</v-btn>
    </template>
  </DialogSheet>
</template>

<style scoped>
.form {
  display: grid;
  gap: 16px;
}
.shapes {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 8px;
}
.shapes button {
  display: grid;
  gap: 6px;
  justify-items: center;
  align-items: end;
  padding: 10px 6px 6px;
  height: 92px;
  border: 1px solid var(--rule);
  border-radius: 5px;
  font-weight: 600;
  cursor: pointer;
}
.figure {
  height: 44px;
  max-width: 72px;
  border: 2px solid currentcolor;
  border-radius: 2px;
  background: color-mix(in srgb, var(--sea) 20%, transparent);
}
.shapes .chosen {
  border-color: var(--vermilion);
  box-shadow: inset 0 0 0 1px var(--vermilion);
}
.row {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.quiet {
  color: var(--quiet);
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
