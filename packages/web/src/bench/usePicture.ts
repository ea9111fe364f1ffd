import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { wordsOf } from '../stores/errors'
import { proxy, transfer, type startEngines } from '../workers/engine'
import type { Painter, PictureAnswer } from '../workers/protocol'
import type { Reading } from '../workers/readings'
import type { useReel } from './useReel'
import { usePictureRequest, type PictureOptions } from './usePictureRequest'
import { usePlaying } from './usePlaying'

/** A picture that takes longer than this is said to be on its way. */
const LATE_MS = 150
/** A picture that has not changed for so long rests. */
const REST_MS = 150

/** Ties the bench to the picture workers: asks whenever the request has become another. */
export function usePicture(
  options: PictureOptions & { readonly reel: ReturnType<typeof useReel> },
  engines: ReturnType<typeof startEngines>,
) {
  const request = usePictureRequest(options)
  const answer = shallowRef<PictureAnswer | null>(null)
  const reading = shallowRef<Reading | null>(null)
  const problem = ref('')
  /** The newest question has been without an answer for so long that what is shown must be marked as old. */
  const late = ref(false)
  /** Nothing is to come: what was last asked for has been drawn by the processor, or has failed. */
  const settled = ref(false)

  let asked = 0
  let resting: ReturnType<typeof setTimeout> | undefined
  /** @param by who may draw; what something else has drawn is drawn again by the processor once it rests */
  async function ask(by?: Painter): Promise<void> {
    clearTimeout(resting)
    settled.value = false
    if (!request.value) return
    const question = by ? { ...request.value, by } : request.value
    const mine = ++asked
    const timer = setTimeout(() => (late.value = mine === asked), LATE_MS)
    try {
      const got = await engines.picture.ask(question)
      if (!got) return
      answer.value = got
      problem.value = ''
      if (mine !== asked) return
      settled.value = got.by === 'processor'
      if (!settled.value) resting = setTimeout(() => void ask('processor'), REST_MS)
    } catch (error) {
      problem.value = wordsOf(error)
      settled.value = mine === asked
    } finally {
      clearTimeout(timer)
      if (mine === asked) late.value = false
    }
  }

  const { isTold, ...playing } = usePlaying({
    engine: engines.picture,
    loop: options.loop,
    reel: options.reel,
    answer,
    problem,
    begin: async () => {
      await ask()
      clearTimeout(resting)
      settled.value = false
    },
    end: () => void ask('processor'),
  })
  watch(request, () => {
    if (!isTold()) void ask()
  })

  /** Hands the two canvases over; they can only be given away once. */
  function attach(picture: HTMLCanvasElement, scope: HTMLCanvasElement): void {
    const [a, b] = [picture.transferControlToOffscreen(), scope.transferControlToOffscreen()]
    const tell = proxy((read: Reading) => void (reading.value = read))
    const { port1, port2 } = new MessageChannel()
    void engines.picture.attach(transfer(a, [a]), transfer(port1, [port1]))
    void engines.side.attachReadings(transfer(b, [b]), transfer(port2, [port2]), tell)
    void ask()
  }

  onScopeDispose(engines.end)
  return { engines, request, answer, reading, problem, late, settled, attach, ask, ...playing }
}
