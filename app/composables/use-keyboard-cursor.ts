import { clamp } from '#core/geometry/clamp'
import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'
import { shallowRef, watch } from 'vue'
import type { Point } from '#core/geometry/point'
import { useStage } from '~/stores/stage'

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

/** How far an arrow key moves the cursor, alone and with Shift, in CSS pixels. */
const STEP = 10
const FINE_STEP = 1

/**
 * Makes the tools of the stage usable by keyboard: the arrow keys move a cross over the board, with Shift in small steps, and Enter clicks at
 * its position. Enter again, without moving it, is left to the tool: it finishes a drawing.
 * `cursor` is its position in CSS pixels of the board; undefined until an arrow key is pressed, and again once the mouse is used.
 */
export function useKeyboardCursor(board: Readonly<Ref<HTMLElement | null>>, size: Readonly<Ref<{ width: number; height: number }>>) {
  const stage = useStage()
  const cursor = shallowRef<Point>()
  let hasMoved = false
  watch(
    () => stage.tool,
    () => (cursor.value = undefined),
  )
  useEventListener(board, 'pointermove', (event) => event.isTrusted && (cursor.value = undefined))

  function move(dx: number, dy: number, step: number) {
    const { width, height } = size.value
    const from = cursor.value ?? { x: width / 2, y: height / 2 }
    const clamped = (value: number, most: number) => clamp(value, 1, most - 1)
    cursor.value = { x: clamped(from.x + dx * step, width), y: clamped(from.y + dy * step, height) }
    hasMoved = true
    send('pointermove')
  }

  /** Sends pointer events to the element under the cross. */
  function send(type: 'pointermove' | 'pointerdown' | 'pointerup') {
    const box = board.value!.getBoundingClientRect()
    const [clientX, clientY] = [box.left + cursor.value!.x, box.top + cursor.value!.y]
    const target = document.elementFromPoint(clientX, clientY) ?? board.value!
    target.dispatchEvent(new PointerEvent(type, { bubbles: true, button: 0, pointerId: 1, clientX, clientY }))
  }

  useEventListener(
    window,
    'keydown',
    (event) => {
      if (stage.tool === 'select' || event.ctrlKey || event.metaKey || event.altKey) return
      if (event.target instanceof HTMLElement && event.target.matches('input, textarea, button, a, [role]')) return
      const arrow = ARROWS[event.key]
      if (arrow) move(...arrow, event.shiftKey ? FINE_STEP : STEP)
      else if (event.key === 'Enter' && cursor.value && hasMoved) {
        hasMoved = false
        send('pointerdown')
        send('pointerup')
      } else return
      event.preventDefault()
      event.stopImmediatePropagation()
    },
    { capture: true },
  )
  return { cursor }
}
