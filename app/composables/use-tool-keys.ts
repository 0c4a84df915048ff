import { useEventListener } from '@vueuse/core'

/**
 * The keys of a tool, handled before the editor's shortcuts; not while the user is typing.
 * @param actionFor the action of a key; undefined leaves it to other handlers
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
