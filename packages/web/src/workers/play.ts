import type { PlayRequest } from './protocol'

export interface PlayHooks<P = number> {
  /** False once playing was stopped or begun anew. */
  readonly going: () => boolean
  readonly show: (place: P) => Promise<void>
  readonly onFrame: (place: P, rate: number) => void
}

/** As many frames tell the rate. */
const MEASURED = 24

/**
 * Shows places by the clock, leaving out those that come too late; the rate is measured over the last second.
 * @param placeAt after so many seconds; the same one as long as nothing else is to be shown, null at the end
 * @returns the place that was shown last, where it came to the end; undefined where it was stopped
 */
export async function playPlaces<P>(
  placeAt: (seconds: number) => P | null,
  { going, show, onFrame }: PlayHooks<P>,
): Promise<{ readonly last: P | undefined } | undefined> {
  const begun = performance.now()
  let shown: P | undefined
  const times: number[] = []
  while (going()) {
    const place = placeAt((performance.now() - begun) / 1000)
    if (place === null) return { last: shown }
    if (place === shown) {
      await new Promise((resolve) => setTimeout(resolve, 2))
      continue
    }
    shown = place
    await show(place)
    if (!going()) return undefined
    times.push(performance.now())
    if (times.length > MEASURED) times.shift()
    const rate = times.length > 1 ? (1000 * (times.length - 1)) / (times[times.length - 1]! - times[0]!) : 0
    onFrame(place, rate)
    // Lets messages in, such as stop() or a changed recipe.
    await new Promise((resolve) => setTimeout(resolve))
  }
  return undefined
}

/** Plays frames forwards or backwards, to the end of their range or round and round. */
export async function playFrames(request: PlayRequest, from: number, hooks: PlayHooks): Promise<void> {
  const { first, last, fps, speed, loop } = request
  const start = Math.min(Math.max(from, first), last) - first
  const length = last - first + 1
  const ended = await playPlaces((seconds) => {
    const position = start + Math.trunc(seconds * fps * speed)
    if (!loop && (position >= length || position < 0)) return null
    return first + (((position % length) + length) % length)
  }, hooks)
  if (!ended) return
  const end = speed < 0 ? first : last
  if (ended.last !== end) await hooks.show(end)
  hooks.onFrame(end, 0)
}
