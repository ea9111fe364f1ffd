import { Socket } from 'node:net'
import type { App } from './context'

/** A client that takes nothing of an answer for so long has gone, whether it says so or not, ms. */
export const UNREAD_MS = 60_000

/**
 * Lets go of those who do not read what they asked for: each holds files, and what was made ready for it. The time begins with
 * the answer, so that whatever takes long to be worked out is waited for.
 */
export function installUnread(app: App, ms: number): void {
  app.addHook('onSend', async (request, reply, payload) => {
    const { socket } = request.raw
    if (!isStream(payload) || !(socket instanceof Socket)) return
    // Node counts from the last byte that the other side has taken.
    const letGo = (): void => void socket.destroy()
    socket.setTimeout(ms, letGo)
    reply.raw.once('close', () => {
      socket.setTimeout(0)
      socket.off('timeout', letGo)
    })
  })
}

const isStream = (payload: unknown): boolean => typeof (payload as { pipe?: unknown } | null)?.pipe === 'function'
