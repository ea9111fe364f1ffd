import {
  Workbench,
  compileLine,
  emit16,
  emitFloat,
  encodingById,
  makeIngest,
  makeRecode,
  runPlan,
  type FrameData,
  type Ingest,
  type Plan,
  type Recipe,
  type Recode,
  type Trims,
} from '@fogbath/core'
import { move } from 'piscina'

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
  readonly recipe: Recipe
  readonly trims: Trims
  readonly from: string
  readonly to: string
  readonly bits: number
  readonly float: boolean
}

interface Ready {
  readonly key: string
  readonly ingest: Ingest
  readonly plan: Plan
  readonly recode: Recode
}

/** Buffers of the plan, and the light that is handed to it. */
const bench = new Workbench()
const pictures = new Workbench()
let ready: Ready | undefined

function prepare(job: Job, format: 'u16' | 'f32'): Ready {
  const key = format + JSON.stringify(job)
  if (ready?.key !== key)
    ready = {
      key,
      ingest: makeIngest(encodingById(job.from), format),
      plan: compileLine(job.recipe, { trims: job.trims }),
      recode: makeRecode(encodingById(job.to)),
    }
  return ready
}

/** Footage code values in, code values of the target out; interleaved RGB both. */
export function workFrame({ data, width, height, frame, job }: FrameTask): FrameData {
  const n = width * height
  const { ingest, plan, recode } = prepare(job, data instanceof Float32Array ? 'f32' : 'u16')
  const camera = pictures.take('camera', n)
  ingest(data, camera, n)
  const picture = runPlan(plan, camera, width, height, bench)
  recode(picture, n)
  const out = job.float ? new Float32Array(3 * n) : new Uint16Array(3 * n)
  if (out instanceof Float32Array) emitFloat(picture, out, n)
  else emit16(picture, out, n, job.bits, frame)
  return out
}

export default (task: FrameTask): unknown => move(workFrame(task) as Uint16Array<ArrayBuffer>)
