import { ClipDecoder } from '../../packages/web/src/workers/clip/decoder'
import { FrameStore } from '../../packages/web/src/workers/frames'
import type { ClipTraits } from '../../packages/web/src/workers/protocol'

/** Frames decoded in the page and by the server: the greatest difference, in codes of 10 bits; null where the page cannot. */
async function compareClip(mediumId: number, traits: ClipTraits, asked: readonly (readonly [number, number])[]) {
  const decoder = await ClipDecoder.open(`${location.origin}/api/media/${mediumId}/file`, traits)
  if (!decoder) return null
  const server = new FrameStore(1e9)
  // All at once, as playing asks ahead.
  const own = await Promise.all(asked.map(([frame, width]) => decoder.frame(frame, width)))
  const most: number[] = []
  for (const [i, [frame, width]] of asked.entries()) {
    const wanted = await server.get({ mediumId, reading: {} }, frame, width)
    if (wanted.data.length !== own[i]!.data.length) throw new Error(`Frame ${frame} has another size.`)
    most.push(wanted.data.reduce((far, v, k) => Math.max(far, Math.abs(v - own[i]!.data[k]!)), 0) / 64.06)
  }
  decoder.close()
  return most
}

declare global {
  interface Window {
    compareClip: typeof compareClip
  }
}
window.compareClip = compareClip
