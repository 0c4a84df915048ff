import { useEventListener } from '@vueuse/core'

/**
 * Keys of a tool, which has them before the editor's shortcuts do; not while something is typed in.
 * @param actionFor what a key does; undefined leaves it to others
 */
export function useToolKeys(actionFor: (event: KeyboardEvent) => (() => void) | undefined): void {
  useEventListener(
    window,
    'keydown',
    (event) => {
      if (event.target instanceof HTMLElement && event.target.matches('input, textarea, [role="combobox"]')) return
      const action = actionFor(event)
      if (!action) return
      event.preventDefault()
      event.stopImmediatePropagation()
      action()
    },
    { capture: true },
  )
}
