import { emit16 } from '../../packages/core/src/cpu'
import { FrameStore } from '../../packages/web/src/workers/frames'
import type { FrameOrder } from '../../packages/web/src/workers/protocol'
import { Treater } from '../../packages/web/src/workers/treat'

/** Digests of frames as the page works them out, as code values of 16 bits. */
async function digests(orders: readonly FrameOrder[], width: number): Promise<string[]> {
  const treater = new Treater(new FrameStore(1e9))
  const all: string[] = []
  for (const of of orders) {
    const scene = treater.scene(await treater.load(of, width))
    const picture = treater.treat(scene, of.order)
    const codes = new Uint16Array(3 * picture.n)
    emit16(picture, codes, 16, of.frame)
    const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', codes))
    all.push([...hash].map((byte) => byte.toString(16).padStart(2, '0')).join(''))
  }
  return all
}

declare global {
  interface Window {
    digests: typeof digests
  }
}
window.digests = digests
