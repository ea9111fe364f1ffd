import { ROUTES, addressOf } from '@fogbath/contract'
import { framesASecond } from '@fogbath/core/numbers'
import { LRUCache } from 'lru-cache'
import { onScopeDispose, watch, type Ref } from 'vue'
import { useBenchStore } from '../stores/bench'

const RATE = 48_000
/** Seconds of a piece that is fetched at once, and how many are kept. */
const PIECE = 4
const KEPT = 30
/** Sound that is further from the picture than so many seconds is taken up anew. */
const APART = 0.12

/**
 * The sound of the clip on the bench, heard while it plays forwards at its own rate. Frames lead: where they come late, or
 * begin again, the sound is taken up where they are.
 * @param going how many times as fast it plays @param muted nothing is fetched or heard
 */
export function useSound(going: Ref<number>, muted: Ref<boolean>): void {
  const bench = useBenchStore()
  const pieces = new LRUCache<string, Promise<AudioBuffer | null>>({ max: KEPT })
  let context: AudioContext | undefined
  const sounding = new Set<AudioBufferSourceNode>()
  /** At the context's time 0 the clip is at so many seconds. */
  let origin = 0
  /** Up to which second of the clip pieces are laid down. */
  let laid = 0
  let run = 0
  let heard = false

  const secondOf = (frame: number, fps: string): number => frame / framesASecond(fps)

  function piece(mediumId: number, at: number): Promise<AudioBuffer | null> {
    const key = `${mediumId}/${at}`
    const known = pieces.get(key)
    if (known) return known
    const made = fetchPiece(context!, mediumId, at).catch(() => {
      pieces.delete(key)
      return null
    })
    pieces.set(key, made)
    return made
  }

  function silence(): void {
    run++
    heard = false
    for (const node of sounding) node.stop()
    sounding.clear()
  }

  /** Lays the next piece down behind the last one. */
  async function lay(mediumId: number, mine: number): Promise<void> {
    const at = Math.floor(laid / PIECE)
    const from = laid
    laid = (at + 1) * PIECE
    const buffer = await piece(mediumId, at)
    if (!buffer || mine !== run || !context) return
    const node = new AudioBufferSourceNode(context, { buffer })
    node.connect(context.destination)
    node.onended = () => sounding.delete(node)
    sounding.add(node)
    const now = origin + context.currentTime
    const begin = Math.max(from, now)
    if (begin < at * PIECE + buffer.duration) node.start(begin - origin, begin - at * PIECE)
  }

  function follow(): void {
    const { shot } = bench
    const info = shot?.medium.info
    if (!shot || !info?.sound || muted.value || going.value !== 1) return silence()
    context ??= new AudioContext({ sampleRate: RATE })
    if (context.state === 'suspended') void context.resume()
    const wanted = secondOf(bench.frame, info.fps)
    const now = origin + context.currentTime
    if (!heard || Math.abs(wanted - now) > APART) {
      silence()
      heard = true
      origin = wanted - context.currentTime
      laid = wanted
    }
    if (laid - wanted < PIECE / 2) void lay(shot.mediumId, run)
  }

  watch([() => bench.frame, () => bench.shot?.id, going, muted], follow)
  onScopeDispose(() => {
    silence()
    void context?.close()
  })
}

/** @param at its number @returns null behind the end */
async function fetchPiece(context: AudioContext, mediumId: number, at: number): Promise<AudioBuffer | null> {
  const query = { from: at * PIECE, length: PIECE }
  const response = await fetch(addressOf(ROUTES.sound, { params: { id: mediumId }, query }))
  if (!response.ok) throw new Error(`The sound could not be fetched (${response.status}).`)
  const samples = new Int16Array(await response.arrayBuffer())
  if (samples.length < 2) return null
  const buffer = context.createBuffer(2, samples.length >> 1, RATE)
  for (const channel of [0, 1]) {
    const to = buffer.getChannelData(channel)
    for (let i = 0; i < to.length; i++) to[i] = samples[2 * i + channel]! / 32768
  }
  return buffer
}
