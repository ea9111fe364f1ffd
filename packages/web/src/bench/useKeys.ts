import { useEventListener } from '@vueuse/core'

export interface KeyActions {
  readonly down: Record<string, (e: KeyboardEvent) => void>
  readonly up: Record<string, () => void>
}

/** Fields take their own keys; everything else is the bench's. */
const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
    target.getAttribute('role') === 'slider' ||
    target.closest('[role="dialog"]') !== null)

const nameOf = (e: KeyboardEvent): string =>
  `${e.ctrlKey || e.metaKey ? 'ctrl+' : ''}${e.shiftKey && e.key.length > 1 ? 'shift+' : ''}${e.key.length === 1 ? e.key.toLowerCase() : e.key}`

/** Keyboard of a view; cleans up with the component. */
export function useKeys(actions: KeyActions): void {
  useEventListener(window, 'keydown', (e: KeyboardEvent) => {
    if (typing(e.target)) return
    // Space and Enter on a focused button press that button.
    if ((e.key === ' ' || e.key === 'Enter') && e.target instanceof HTMLButtonElement) return
    const act = actions.down[nameOf(e)]
    if (!act) return
    e.preventDefault()
    act(e)
  })
  useEventListener(window, 'keyup', (e: KeyboardEvent) => actions.up[e.key.toLowerCase()]?.())
}
