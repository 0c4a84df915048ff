<script setup lang="ts">
import { computed, useTemplateRef, watchEffect } from 'vue'
import DialogSheet from '~/components/DialogSheet.vue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { canvasOf } from '~/services/small-pictures'
import { useOwnPicture } from '~/stores/own-picture'
import PicturePosture from './PicturePosture.vue'
import { VIEWS } from '../vehicle/vehicle-views'

/** Prepares a picture of one's own: where it stands, of a vehicle also which side it shows and which way it faces, and without the box it may stand in. */
const picture = useOwnPicture()
const open = computed({ get: () => picture.original !== undefined, set: (isOpen) => !isOpen && picture.close() })

const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
watchEffect(() => {
  const { prepared } = picture
  if (!prepared || !canvas.value) return
  Object.assign(canvas.value, { width: prepared.width, height: prepared.height })
  canvas.value.getContext('2d')!.drawImage(canvasOf(prepared), 0, 0)
})
</script>

<template>
  <DialogSheet v-model="open" :title="picture.title" :width="460">
    <template v-if="picture.prepared">
      <PicturePosture :size="picture.prepared" :look="picture.look" @change="(look) => (picture.look = look)">
        <canvas ref="canvas" class="picture" data-testid="vehicle-preview" />
      </PicturePosture>
      <ChoiceRow v-if="picture.hasView" label="Seen" :model-value="picture.look.view" :choices="VIEWS" @change="picture.setView" />
      <template v-if="picture.background">
        <p class="quiet" role="status">
          The picture stands in a box {{ picture.background.length === 1 ? 'of one colour' : 'with a painted checkerboard' }}.
        </p>
        <v-switch v-model="picture.isCut" label="Cut it out" data-testid="cut-out" />
        <NumberSlider
          v-if="picture.isCut"
          label="Tolerance"
          :model-value="picture.tolerance"
          :min="4"
          :max="140"
          @change="(tolerance) => (picture.tolerance = tolerance)"
        />
      </template>
      <p v-if="picture.failure" class="error" role="alert">{{ picture.failure }}</p>
    </template>
    <template #actions>
      <v-btn variant="text" @click="picture.close()">Cancel</v-btn>
      <v-btn color="accent" variant="flat" :loading="picture.share !== undefined" data-testid="use-picture" @click="picture.finish()"
        >Use this picture</v-btn
      >
    </template>
  </DialogSheet>
</template>

<style scoped>
.picture {
  display: block;
  width: 100%;
  height: 100%;
}
.error {
  color: var(--vermilion);
}
</style>
