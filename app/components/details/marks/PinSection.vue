<script setup lang="ts">
import { computed } from 'vue'
import { pinLike } from '#core/dress/own-styles'
import type { Marked } from '#core/trips/compiled'
import { boundsOf } from '#core/journey/bounds'
import type { Pin } from '#core/journey/schema'
import { pinSchema } from '#core/journey/schema'
import { PIN_IDS, PINS } from '#core/pins/catalogue'
import { coarsestLevel } from '#core/sheet/pyramid'
import ColourField from '~/components/fields/ColourField.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import OwnStyles from '~/components/fields/OwnStyles.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import PinPicture from '~/components/fields/PinPicture.vue'
import { useMarkEdits } from '~/composables/use-mark-edits'
import { tileAddress } from '~/services/addresses'
import { useOwnPicture } from '~/stores/own-picture'
import PinFields from './PinFields.vue'

/** The pin of a stop, or of a mark beside the way: its shape, colour and size, and what is folded away. */
const props = defineProps<{ stop: Marked; isBeside?: boolean }>()
const own = useOwnPicture()
const { patch, set, done } = useMarkEdits(() => props.stop)

const pin = computed(() => props.stop.pin)
const CHOICES: readonly { value: Pin['shape']; title: string }[] = [
  ...PIN_IDS.map((value) => ({ value, title: PINS[value].title })),
  { value: 'own', title: 'A picture of your own' },
  { value: 'none', title: 'No pin' },
]
const picture = computed(
  () => pin.value.picture && tileAddress(pin.value.picture.image, { level: coarsestLevel(pin.value.picture), column: 0, row: 0 }),
)

/** A pin of one's own needs a picture first; one that is there already is taken again. */
function choose(shape: Pin['shape']) {
  if (shape === 'own' && (!pin.value.picture || pin.value.shape === 'own')) return choosePicture()
  set({ pin: { shape } })
}
const choosePicture = () => own.choose('pin', (photo, { anchor }) => set({ pin: { shape: 'own', picture: { ...photo, anchor } } }))

/** What is set of the pin besides its shape, colour and size. */
const note = computed(() => {
  const { inside, circle, lies, lift, shadow, before, comes, comesIn, delay } = pin.value
  const words = [
    inside?.kind === 'number' && !props.isBeside && 'number',
    inside?.kind === 'letters' && inside.text,
    inside?.kind === 'icon' && inside.icon,
    circle !== null && 'circle',
    lies && 'flat',
    lift > 0 && 'raised',
    shadow !== undefined && 'shadow',
    before !== 'hidden' && !props.isBeside && before,
    comes !== 'pop' && !props.isBeside && comes,
    comesIn !== undefined && !props.isBeside && `${comesIn} s`,
    delay !== 0 && !props.isBeside && `${delay > 0 ? '+' : '−'}${Math.abs(delay)} s`,
  ]
  return words.filter(Boolean).join(', ') || 'none'
})
</script>

<template>
  <PictureChoice v-slot="{ choice }" label="Pin" :model-value="pin.shape" :choices="CHOICES" :columns="6" @change="choose">
    <template v-if="choice.value === 'none'">None</template>
    <template v-else-if="choice.value === 'own'">
      <img v-if="picture" class="own-pin" :src="picture" alt="" />
      <template v-else>Own …</template>
    </template>
    <PinPicture v-else :shape="choice.value" :colour="pin.colour" />
  </PictureChoice>
  <p v-if="own.failure && !own.original" class="error" role="alert">{{ own.failure }}</p>
  <OwnStyles kind="pin" :look="pin" @apply="(look) => set({ pin: pinLike(pin, look) })" />
  <template v-if="pin.shape !== 'none'">
    <ColourField
      v-if="pin.shape !== 'own'"
      label="Colour"
      :model-value="pin.colour"
      @change="(colour) => patch('pin colour', { pin: { colour } })"
      @done="done"
    />
    <NumberSlider
      label="Size"
      :model-value="pin.size"
      v-bind="boundsOf(pinSchema, 'size')"
      :usual="[16, 200]"
      unit="px"
      @change="(size) => patch('pin size', { pin: { size } })"
      @done="done"
    />
    <FoldedSection :title="isBeside ? 'Inside, circle, height' : 'Inside, circle, height, entrance'" :note="note"
      ><PinFields :stop="stop" :is-beside="isBeside"
    /></FoldedSection>
  </template>
</template>

<style scoped>
.own-pin {
  max-width: 40px;
  max-height: 46px;
}
.error {
  color: var(--vermilion);
}
</style>
