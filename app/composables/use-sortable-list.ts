import Sortable from 'sortablejs'
import type { Ref } from 'vue'
import { onBeforeUnmount, onMounted } from 'vue'

/** Makes the entries of a list, which is rendered from the journey, sortable by their grips. @param move moves an entry from one index to another */
export function useSortableList(list: Readonly<Ref<HTMLElement | null>>, move: (from: number, to: number) => void): void {
  let sortable: Sortable | undefined
  onMounted(() => {
    const parent = list.value!
    sortable = Sortable.create(parent, {
      handle: '.grip',
      animation: 120,
      onEnd({ oldIndex, newIndex, item }) {
        if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
        // Undo the drag in the DOM before the journey changes.
        parent.insertBefore(item, parent.children[oldIndex < newIndex ? oldIndex : oldIndex + 1] ?? null)
        move(oldIndex, newIndex)
      },
    })
  })
  onBeforeUnmount(() => sortable?.destroy())
}
