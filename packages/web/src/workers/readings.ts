import { pictureFigures, type Figure } from '@fogbath/core/readings'
import { type Scene, type SceneSize } from '@fogbath/core/treat'
import type { PictureRequest } from './protocol'
import { drawScope, drawScopes } from './scope-draw'
import type { Treater } from './treat'

/** A shown picture and what is to be read off it; code values, RGBA. */
export interface Shown extends Pick<PictureRequest, 'scope' | 'scopeOf' | 'scopeSize' | 'greyCode'>, SceneSize {
  readonly treated: Float32Array
  /** The footage as lines take it. */
  readonly camera: Float32Array
  /** The other shot of two that are compared, as it is treated, of the same size; else null. */
  readonly other: Float32Array | null
  /** The part that is read, or null for all. */
  readonly area: Float32Array | null
  /** Where the picture's own skin is, or null where that is not known. */
  readonly skin: Float32Array | null
}
/** What was read off a shown picture, and what the scope shows of it. */
export type Reading = Pick<PictureRequest, 'scope' | 'scopeOf'> & {
  readonly figures: readonly Figure[]
  /** Another shot is read beside this one. */
  readonly two: boolean
}
/** What travels: the scene's picture only when it is another scene than last time. */
type Task = Omit<Shown, 'camera'> & { readonly camera: Float32Array | null }

/**
 * Hands shown pictures to the worker that reads them, so that reading holds no picture up. While that one is busy only
 * the newest picture waits.
 */
export class ReadingSender {
  private busy = false
  private next: { readonly scene: Scene; readonly make: () => Shown | null } | undefined
  private spare: Float32Array | undefined
  /** The scene that the reader has. */
  private known: Scene | undefined

  constructor(private readonly port: MessagePort) {
    port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
      this.spare = data
      this.busy = false
      this.send()
    }
  }

  /** @param make is asked once its turn comes; null when the picture is gone by then */
  offer(scene: Scene, make: () => Shown | null): void {
    this.next = { scene, make }
    this.send()
  }

  private send(): void {
    if (this.busy || !this.next) return
    const { scene, make } = this.next
    this.next = undefined
    const shown = make()
    if (!shown) return
    const { length } = shown.treated
    const treated = this.spare?.length === length ? this.spare : new Float32Array(length)
    treated.set(shown.treated)
    const camera = this.known === scene ? null : shown.camera.slice(0, length)
    this.known = scene
    const area = shown.area?.slice() ?? null
    const skin = shown.skin?.slice() ?? null
    const other = shown.other?.slice(0, length) ?? null
    const travelling = [treated, camera, area, skin, other].flatMap((a) => (a ? [a.buffer] : []))
    this.port.postMessage({ ...shown, treated, camera, area, skin, other } satisfies Task, travelling)
    this.busy = true
  }
}

/** A canvas that is given the size that it has is emptied all the same. */
function sizeTo(canvas: OffscreenCanvas, [width, height]: Shown['scopeSize']): void {
  if (canvas.width !== width) canvas.width = width
  if (canvas.height !== height) canvas.height = height
}

/** Reads the pictures that come through a port: draws the scope, tells the figures, sends the buffer back. */
export function readPictures(
  port: MessagePort,
  treater: Treater,
  canvas: OffscreenCanvas,
  tell: (reading: Reading) => void,
): void {
  let scene: Scene | undefined
  // Asked for once, as in canvas.ts.
  const pen = canvas.getContext('2d')!
  port.onmessage = ({ data }: MessageEvent<Task>) => {
    const { camera, treated, width, height, frame, refers, shownIn, area, skin, scope, scopeOf } = data
    if (camera) scene = treater.adopt(camera, { width, height, frame, refers, shownIn })
    const still = (of: Float32Array) => ({ data: of, width, height })
    try {
      const { pixels } = treater.footage(scene!)
      const [first, ghost] = [scopeOf === 'footage' ? pixels : treated, scopeOf === 'both' ? pixels : null]
      sizeTo(canvas, data.scopeSize)
      const own = {
        kind: scope,
        picture: still(first),
        shownIn,
        greyCode: data.greyCode,
        ghost: ghost && still(ghost),
        area,
      }
      const beside = data.other && { ...own, picture: still(data.other), greyCode: null, ghost: null, area: null }
      if (beside) drawScopes(pen, [beside, own])
      else drawScope(pen, own)
      tell({
        scope,
        scopeOf,
        two: beside !== null,
        figures: pictureFigures(treated, pixels, width * height, area, skin),
      })
    } finally {
      // Whatever became of the reading, the sender waits for its buffer.
      port.postMessage(treated, [treated.buffer])
    }
  }
}
