import { useEventListener } from '@vueuse/core'
import { KEYS, type KeyEntry } from './keys'

/** Fields take their own keys; everything else is the bench's. */
const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
    target.closest('[role="dialog"]') !== null)

/** Sliders move by their arrow keys, lists open by theirs; the other keys stay the bench's. */
const taken = (e: KeyboardEvent): boolean =>
  e.target instanceof HTMLElement &&
  ((/^(Arrow|Home|End|Page)/.test(e.key) && e.target.closest('[role="slider"], .n-base-selection') !== null) ||
    // Space and Enter on a focused button press that button.
    ((e.key === ' ' || e.key === 'Enter') &&
      e.target.closest('button, a, .n-base-selection, [role="switch"]') !== null))

const nameOf = (e: KeyboardEvent): string => {
  const letter = e.key.length === 1
  return `${e.ctrlKey || e.metaKey ? 'ctrl+' : ''}${e.shiftKey && (e.ctrlKey || !letter) ? 'shift+' : ''}${letter ? e.key.toLowerCase() : e.key}`
}

const ACTIONS = new Map(
  KEYS.flatMap((g): readonly KeyEntry[] => g.entries).flatMap((e) => e.keys.map((k) => [k, e.action] as const)),
)

/**
 * Keyboard of the bench; cleans up with the component.
 * @param actions what each named action does @param choose the number keys: 0 for the first bath
 * @param release when a held key (by its action) is let go
 */
export function useKeys(
  actions: Record<string, () => unknown>,
  choose: (index: number) => void,
  release: Record<string, () => void>,
): void {
  useEventListener(window, 'keydown', (e: KeyboardEvent) => {
    if (typing(e.target) || taken(e)) return
    const name = nameOf(e)
    const action = ACTIONS.get(name)
    if (/^[1-9]$/.test(name)) choose(Number(name) - 1)
    else if (name === 'Escape') actions['escape']?.()
    else if (!action || !actions[action]) return
    else actions[action]()
    if (name !== 'Escape') e.preventDefault()
  })
  useEventListener(window, 'keyup', (e: KeyboardEvent) => release[ACTIONS.get(e.key.toLowerCase()) ?? '']?.())
}
