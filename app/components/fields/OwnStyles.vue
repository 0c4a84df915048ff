<script setup lang="ts" generic="K extends StyleKind">
import { mdiClose } from '@mdi/js'
import { computed, onMounted, ref } from 'vue'
import type { LookOf, NewStyle, StyleKind } from '#core/dress/own-styles'
import { useOwnStyles } from '~/stores/own-styles'

/** The styles of a kind that one has kept: each is put on by a click; the present look is kept under a name. */
const props = defineProps<{ kind: K; look: LookOf<K> }>()
const emit = defineEmits<{ apply: [look: LookOf<K>] }>()
const store = useOwnStyles()
onMounted(store.load)

const styles = computed(() => store.ofKind(props.kind))
/** The name that is being typed; undefined while none is asked for. */
const name = ref<string>()

async function keep() {
  const written = name.value?.trim()
  if (!written) return
  if (await store.keep({ kind: props.kind, name: written, look: props.look } as NewStyle)) name.value = undefined
}
</script>

<template>
  <div class="own" role="group" aria-label="Your own styles">
    <span v-for="style in styles" :key="style.id" class="style">
      <button
        type="button"
        class="put"
        data-testid="own-style"
        :title="`Apply “${style.name}”`"
        @click="emit('apply', style.look as LookOf<K>)"
      >
        {{ style.name }}
      </button>
      <button type="button" class="away" :aria-label="`Delete the style ${style.name}`" title="Delete" @click="store.remove(style.id)">
        <v-icon :icon="mdiClose" size="14" />
      </button>
    </span>
    <button v-if="name === undefined" type="button" class="keep" data-testid="keep-style" @click="name = ''">Save as a style …</button>
    <form v-else class="naming" @submit.prevent="keep">
      <v-text-field
        v-model="name"
        label="Name of the style"
        maxlength="60"
        autofocus
        data-testid="style-name"
        @keydown.esc.stop="name = undefined"
      />
      <v-btn type="submit" size="small" variant="outlined" :disabled="!name.trim()">Save</v-btn>
    </form>
    <p v-if="store.failure" class="error" role="alert">{{ store.failure }}</p>
  </div>
</template>

<style scoped>
.own {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  margin: 4px 0 6px;
}
.style {
  display: inline-flex;
  align-items: center;
  border: 1px solid var(--rule);
  border-radius: 14px;
}
.put {
  min-height: 26px;
  max-width: 200px;
  padding: 0 4px 0 11px;
  overflow: hidden;
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}
.style:hover {
  border-color: var(--quiet);
}
.away {
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  color: var(--quiet);
  cursor: pointer;
}
.keep {
  min-height: 26px;
  padding: 0 4px;
  font-size: 13px;
  color: var(--quiet);
  text-decoration: underline;
  cursor: pointer;
}
.naming {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 8px;
  width: 100%;
}
.error {
  width: 100%;
  color: var(--vermilion);
}
</style>
