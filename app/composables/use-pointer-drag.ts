import type { Point } from '#core/geometry/point'

/** CSS pixels that a pointer may move before a press becomes a drag. */
const SLACK = 3

export interface DragHandlers {
  /** Called for each movement during a drag, with the distance from its start, in CSS pixels. */
  move: (by: Point, event: PointerEvent) => void
  /** Called at the end; `dragged` is false for a mere click. */
  end?: (dragged: boolean, event: PointerEvent) => void
}

/** Follows a pressed pointer until it is let go, also outside the element it was pressed on. */
export function followPointer(press: PointerEvent, { move, end }: DragHandlers): void {
  if (press.button !== 0) return
  const origin = { x: press.clientX, y: press.clientY }
  let dragged = false
  const control = new AbortController()
  const { signal } = control
  const finish = (event: PointerEvent) => {
    if (event.pointerId !== press.pointerId) return
    control.abort()
    end?.(dragged, event)
  }
  window.addEventListener(
    'pointermove',
    (event) => {
      if (event.pointerId !== press.pointerId) return
      const by = { x: event.clientX - origin.x, y: event.clientY - origin.y }
      dragged ||= Math.hypot(by.x, by.y) > SLACK
      if (dragged) move(by, event)
    },
    { signal },
  )
  window.addEventListener('pointerup', finish, { signal })
  window.addEventListener('pointercancel', finish, { signal })
}
