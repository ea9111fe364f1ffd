import { shallowRef } from 'vue'

/** What went wrong without anybody waiting for it; App.vue shows it. */
export const reported = shallowRef<{ readonly text: string } | null>(null)

/** What there is to say of anything that was thrown. */
export const wordsOf = (reason: unknown): string => (reason instanceof Error ? reason.message : String(reason))

export const report = (reason: unknown): void => {
  reported.value = { text: wordsOf(reason) }
}

/** Nothing that fails stays unsaid: promises that nobody waits for, and errors out of timers and handlers. */
export function listenForFailures(target: Window): void {
  target.addEventListener('unhandledrejection', (e) => report(e.reason))
  target.addEventListener('error', (e) => {
    // Browsers report a delayed ResizeObserver in this way; nothing is wrong then.
    if (e.error) report(e.error)
  })
}
