<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { computed } from 'vue'
import type { CaptionPatch } from '#core/edits/marks/captions'
import { editCaption, removeCaption } from '#core/edits/marks/captions'
import { CAPTION_NAMES } from '#core/journey/lookup'
import { nameOfTraveller } from '#core/edits/trips/travellers'
import type { Caption, CaptionContent } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import SpanFields from '~/components/fields/SpanFields.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import PositionGrid from '~/components/fields/PositionGrid.vue'
import { useEditor } from '~/stores/editor'
import AppearsFields from './AppearsFields.vue'
import { CORNER_GRID } from './caption-kinds'
import TextStyleFields from './TextStyleFields.vue'

/** A title or readout: what it says, where it stands, how it is set, and when it is seen. */
const props = defineProps<{ caption: Caption }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `caption ${props.caption.id}`)

const patch = (field: string, values: CaptionPatch) => change(field, (journey) => editCaption(journey, props.caption.id, values))
function set(values: CaptionPatch) {
  done()
  patch('once', values)
  done()
}

const content = computed(() => props.caption.content)
const title = computed(() => (content.value.kind === 'title' ? content.value : undefined))
const followed = computed(() => ('traveller' in content.value ? content.value : undefined))
const hasText = computed(() => content.value.kind !== 'scale-bar' && content.value.kind !== 'north-arrow')
const setContent = (field: string, values: Partial<CaptionContent>) =>
  patch(field, { content: { ...content.value, ...values } as CaptionContent })

const travellers = computed(() => [
  { value: '', title: 'The first' },
  ...editor.journey!.travellers.map((traveller) => ({ value: traveller.id, title: nameOfTraveller(editor.journey!, traveller) })),
])

/** Why a readout has nothing to say; '' where it has. */
const missing = computed(() => {
  const { journey, compiled, geo } = editor
  const { kind } = content.value
  const trip = compiled!.travellers.find(({ traveller }) => !followed.value?.traveller || traveller.id === followed.value.traveller)
  const knowsDistance = geo !== undefined || journey!.measures.metresPerUnit !== null
  if ((kind === 'distance' || kind === 'scale-bar') && !knowsDistance)
    return 'The map is not georeferenced: set its scale in the journey’s details, under Titles and readouts.'
  if ((kind === 'date' || kind === 'day') && !trip?.visits.some(({ date }) => date !== null))
    return 'No stop has a date yet: set the day of arrival in a stop’s details.'
  if (kind === 'height' && !trip?.legs.some(({ leg }) => leg.course.kind === 'track' && leg.course.heights !== null))
    return 'No leg follows a recorded track with heights.'
  return ''
})
</script>

<template>
  <div>
    <h2>{{ CAPTION_NAMES[content.kind] }}</h2>
    <template v-if="title">
      <v-textarea
        label="Title"
        rows="2"
        auto-grow
        maxlength="240"
        data-testid="caption-text"
        :model-value="title.text"
        @update:model-value="(text: string) => setContent('text', { text })"
        @blur="done"
      />
      <v-text-field
        class="second"
        label="Below"
        maxlength="240"
        :model-value="title.second"
        @update:model-value="(second: string) => setContent('second', { second })"
        @blur="done"
      />
    </template>
    <template v-else>
      <p v-if="missing" class="missing" role="status">{{ missing }}</p>
      <v-text-field
        v-if="hasText"
        label="Above"
        maxlength="60"
        :model-value="caption.heading"
        @update:model-value="(heading: string) => patch('heading', { heading })"
        @blur="done"
      />
      <ChoiceRow
        v-if="content.kind === 'height'"
        label="In"
        :model-value="content.unit"
        :choices="[
          { value: 'm', title: 'Metres' },
          { value: 'ft', title: 'Feet' },
        ]"
        @change="(unit) => (done(), setContent('unit', { unit }), done())"
      />
      <FieldRow v-if="followed && editor.journey!.travellers.length > 1" v-slot="{ id }" label="Of">
        <v-select
          :aria-labelledby="id"
          :items="travellers"
          :model-value="followed.traveller ?? ''"
          @update:model-value="(id) => (done(), setContent('traveller', { traveller: id || null }), done())"
        />
      </FieldRow>
    </template>
    <FieldRow v-slot="{ id }" label="Stands">
      <PositionGrid :aria-labelledby="id" :model-value="caption.corner" :places="CORNER_GRID" @change="(corner) => set({ corner })" />
    </FieldRow>
    <TextStyleFields
      :model-value="caption.style"
      :sample="title?.text ?? '128 km'"
      :largest="300"
      @change="(style, field) => patch(field, { style })"
      @done="done"
    />
    <FoldedSection title="When it is seen" :note="caption.shown ? 'a part' : 'all the time'">
      <SpanFields :model-value="caption.shown" @change="(shown) => patch('shown', { shown })" @done="done" />
      <template v-if="caption.shown">
        <AppearsFields
          :model-value="caption.appears"
          :has-parts="hasText"
          @once="(appears) => set({ appears })"
          @change="(appears, field) => patch(`appears ${field}`, { appears })"
          @done="done"
        />
      </template>
    </FoldedSection>
    <div class="buttons">
      <v-btn
        size="small"
        variant="outlined"
        color="error"
        :prepend-icon="mdiDeleteOutline"
        @click="editor.edit((j) => removeCaption(j, caption.id)) && editor.select({ kind: 'journey' })"
        >Delete</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.second {
  margin-top: 8px;
}
.missing {
  margin-bottom: 10px;
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
</style>
