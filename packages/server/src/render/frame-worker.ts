import { emit16, emitFloat, type FrameData } from '@fogbath/core/cpu'
import type { EncodingRef } from '@fogbath/core/encodings'
import { cropOf, wholeLine, type Bath } from '@fogbath/core/line'
import { Treatment, type Order } from '@fogbath/core/treat'
import { isWorkerThread, move, workerData } from 'piscina'
import { startHelpers, type ThreadData } from './threads'

if (isWorkerThread) startHelpers(workerData as ThreadData)

/** One frame to be worked on; the buffer travels without being copied. */
export interface FrameTask {
  readonly data: FrameData
  readonly width: number
  readonly height: number
  readonly frame: number
  readonly job: Job
}

/** What is the same for all frames of a render. */
export interface Job {
  readonly order: Order
  /** Encoding of the delivery, by its id. */
  readonly to: EncodingRef
  readonly bits: number
  readonly float: boolean
}

/** The treatment of the job that was last worked on: another one has no use for its tables and buffers. */
let ready: { readonly key: string; readonly treatment: Treatment } | undefined

function treatmentOf(job: Job): Treatment {
  const key = JSON.stringify(job)
  if (ready?.key !== key) {
    ready?.treatment.release()
    ready = { key, treatment: new Treatment() }
  }
  return ready.treatment
}

/** Footage code values in, code values of the target out; interleaved RGB both. Where they fit they come in the same buffer. */
export function workFrame({ data, width, height, frame, job }: FrameTask): FrameData {
  const format = data instanceof Float32Array ? 'f32' : 'u16'
  const picture = treatmentOf(job).run({ data, format, width, height, frame }, job.order, job.to)
  const Codes = job.float ? Float32Array : Uint16Array
  const out = data instanceof Codes ? data : new Codes(3 * picture.n)
  if (out instanceof Float32Array) emitFloat(picture, out)
  else emit16(picture, out, job.bits, frame)
  return cut(out, width, height, wholeLine(job.order))
}

/** What the line leaves of a picture. */
function cut(codes: FrameData, width: number, height: number, baths: readonly Bath[]): FrameData {
  const crop = cropOf({ baths }, width, height)
  if (crop.width === width && crop.height === height) return codes
  const Codes = codes instanceof Float32Array ? Float32Array : Uint16Array
  const out = new Codes(3 * crop.width * crop.height)
  for (let y = 0; y < crop.height; y++) {
    const from = 3 * ((crop.y + y) * width + crop.x)
    out.set(codes.subarray(from, from + 3 * crop.width), 3 * y * crop.width)
  }
  return out
}

export default (task: FrameTask): unknown => move(workFrame(task))
