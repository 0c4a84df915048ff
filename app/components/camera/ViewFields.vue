<script setup lang="ts">
import { computed } from 'vue'
import type { View } from '#core/camera/view'
import { routeView } from '#core/edits/journey'
import FieldList from '~/components/fields/FieldList.vue'
import { useEditor } from '~/stores/editor'
import { AIM_FIELDS } from './shot-fields'
import ZoomField from './ZoomField.vue'

/** A view of one's own, in figures. Emits the view, and what of it has changed. */
const props = defineProps<{ view: View }>()
const emit = defineEmits<{ change: [view: View, field: string]; done: [] }>()
const editor = useEditor()
const aim = computed(() => ({ bearing: props.view.bearing, pitch: props.view.pitch }))

function once(view: View) {
  emit('change', view, 'once')
  emit('done')
}
function fit() {
  const route = routeView(editor.journey!)
  if (route) once(route)
}
</script>

<template>
  <ZoomField :model-value="view.zoom" @change="(zoom) => emit('change', { ...view, zoom }, 'zoom')" @done="emit('done')" />
  <FieldList
    :model-value="aim"
    :fields="AIM_FIELDS"
    data-testid="view-aim"
    @change="(values) => emit('change', { ...view, ...values }, Object.keys(values).join())"
    @done="emit('done')"
  />
  <div class="buttons">
    <v-btn
      v-if="view.bearing !== 0 || view.pitch !== 0"
      size="small"
      variant="outlined"
      data-testid="straighten-view"
      @click="once({ ...view, bearing: 0, pitch: 0 })"
      >Straight down</v-btn
    >
    <v-btn v-if="editor.journey!.stops.length > 0" size="small" variant="outlined" @click="fit">Fit the route</v-btn>
  </div>
</template>
