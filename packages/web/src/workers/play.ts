import type { PlayRequest } from './protocol'

export interface PlayHooks {
  /** False once playing was stopped or begun anew. */
  readonly going: () => boolean
  readonly show: (frame: number) => Promise<void>
  readonly onFrame: (frame: number, rate: number) => void
}

/** Shows frames by the clock, forwards or backwards, leaving out those that come too late; the rate is measured over the last second. */
export async function playFrames(request: PlayRequest, from: number, hooks: PlayHooks): Promise<void> {
  const { first, last, fps, speed, loop } = request
  const begun = performance.now()
  const start = Math.min(Math.max(from, first), last) - first
  const length = last - first + 1
  let shown = -1
  const times: number[] = []
  while (hooks.going()) {
    const position = start + Math.trunc(((performance.now() - begun) / 1000) * fps * speed)
    if (!loop && (position >= length || position < 0)) {
      const end = position < 0 ? first : last
      if (shown !== end) await hooks.show(end)
      hooks.onFrame(end, 0)
      return
    }
    const frame = first + (((position % length) + length) % length)
    if (frame === shown) {
      await new Promise((resolve) => setTimeout(resolve, 2))
      continue
    }
    shown = frame
    await hooks.show(frame)
    if (!hooks.going()) return
    times.push(performance.now())
    if (times.length > 24) times.shift()
    const rate = times.length > 1 ? (1000 * (times.length - 1)) / (times[times.length - 1]! - times[0]!) : 0
    hooks.onFrame(frame, rate)
    // Lets messages in, such as stop() or a changed recipe.
    await new Promise((resolve) => setTimeout(resolve))
  }
}
