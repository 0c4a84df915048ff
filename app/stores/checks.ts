import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Finding } from '#core/checks/finding'
import { keyOf } from '#core/checks/finding'
import { useCamera } from './camera'
import { useEditor } from './editor'

/** What the checks have found in the film as it was when they last looked through it, and what of that was accepted. */
export const useChecks = defineStore('checks', () => {
  const editor = useEditor()
  const camera = useCamera()
  const findings = shallowRef<readonly Finding[]>([])
  const isAccepted = (finding: Finding) => editor.journey?.accepted.includes(keyOf(finding)) ?? false
  const open = computed(() => findings.value.filter((finding) => !isAccepted(finding)))
  const accepted = computed(() => findings.value.filter(isAccepted))
  /** How many things there are to look at, those with the camera and names without room included. */
  const count = computed(() => open.value.length + camera.checks.length + editor.crowdedLabels.size)
  /** Whether the list has been asked for, and is to be brought into view. */
  const isWanted = ref(false)
  return { findings, open, accepted, count, isWanted }
})
