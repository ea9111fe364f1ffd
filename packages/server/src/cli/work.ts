import { mkdtemp, rename, rm } from 'node:fs/promises'
import { basename, dirname, extname, join, resolve } from 'node:path'
import { DELIVERY_ENDINGS, deliveryByEnding, deliveryFormat, type Delivery } from '@fogbath/core/delivery'
import { encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import { cropOf, wholeLine } from '@fogbath/core/line'
import { secondsOf } from '@fogbath/core/numbers'
import { EDITION, type Order } from '@fogbath/core/treat'
import type { MediaInfo } from '@fogbath/contract'
import { Fault } from '../errors'
import { numbered } from '../files/numbered'
import { writtenSize } from '../media/encode-args'
import { soundOf } from '../media/sound'
import type { Source } from '../media/source'
import { burnInOf, leadOf, notesOf, slateOf } from '../render/delivery'
import type { Job } from '../render/frame-worker'
import { makeJob } from '../render/job'
import { FramePool } from '../render/pool'
import { runFrames } from '../render/run'
import { exists } from './inputs'
import { checkOutputs } from './outputs'

/** What is written: one file, or numbered ones. */
export interface Output {
  readonly delivery: Delivery
  readonly path: string
  readonly numbered: boolean
}

/** @param delivery what it becomes; by the ending of its path alone when left out */
export function outputAt(
  path: string,
  delivery?: Omit<Delivery, 'format'> & { format?: Delivery['format'] | undefined },
): Output {
  const ending = extname(path).slice(1)
  const format = delivery?.format ?? deliveryByEnding(ending)
  if (!format) throw new Fault('usage', `The output '${path}' must end in one of ${DELIVERY_ENDINGS.join(' ')}.`)
  const { moving, ending: own, endings, label } = deliveryFormat(format)
  if (![own, ...endings].includes(ending.toLowerCase()))
    throw new Fault('usage', `The output '${path}' becomes ${label}; it must end in .${own}.`)
  const many = /%0?\d*d/.test(basename(path))
  if (many && moving) throw new Fault('usage', `The output '${path}' is one clip and cannot be numbered.`)
  return { delivery: { ...delivery, format }, path: resolve(path), numbered: many }
}

/** A run of frames on its way through a line into an output, all of it checked. */
export interface Planned {
  readonly source: Source
  readonly info: MediaInfo
  readonly label: string
  readonly order: Order
  readonly job: Job
  readonly output: Output
  readonly first: number
  readonly count: number
  /** Of the written picture. */
  readonly width: number
  readonly height: number
  /** Of a clip that is made of stills. */
  readonly fps: string
}

interface Wanted extends Pick<Planned, 'source' | 'info' | 'label' | 'order' | 'output' | 'first' | 'count' | 'fps'> {
  readonly to?: EncodingRef | undefined
  /** Files that are read: none of them is written over. */
  readonly reads: readonly string[]
  readonly force: boolean
}

export async function planWork({ to, reads, force, ...wanted }: Wanted): Promise<Planned> {
  const { output, info, order, label, count } = wanted
  const { moving, ending } = deliveryFormat(output.delivery.format)
  if (count > 1 && !output.numbered && !moving)
    throw new Fault(
      'usage',
      `${label} has ${count} frames but '${basename(output.path)}' is one picture; number it (out.%04d.${ending}) or choose a frame with --frames N.`,
    )
  const job = makeJob(order, output.delivery, to)
  const cut = cropOf({ baths: wholeLine(order) }, info.width, info.height)
  const size = writtenSize({ delivery: output.delivery, ...cut, encoding: job.to })
  const folder = dirname(output.path)
  if (!(await exists(folder))) throw new Fault('usage', `The folder ${folder} does not exist.`)
  await checkOutputs(namesOf(output, wanted.first, count), reads, force)
  return { ...wanted, job, width: size.width, height: size.height }
}

/** As it is told before it is begun. */
export const planInWords = ({ label, output, first, count, width, height, job }: Planned) => ({
  input: label,
  output: output.path,
  format: output.delivery.format,
  first,
  count,
  width,
  height,
  encoding: encodingOf(job.to).label,
})

/** Does what was planned. Work lies beside the output until it is whole, so that nothing half-made is ever left under its name. */
export async function doWork(
  planned: Planned,
  pool: FramePool,
  { signal, onFrame }: { readonly signal?: AbortSignal | undefined; readonly onFrame: (done: number) => void },
): Promise<void> {
  const { source, info, output, first, count, job, label, order } = planned
  const { delivery } = output
  const { moving } = deliveryFormat(delivery.format)
  const folder = await mkdtemp(join(dirname(output.path), '.fogbath-'))
  try {
    const staged = join(folder, basename(output.path))
    const told = { label: basename(label), look: order.recipe.name, info, first, count }
    const slate = slateOf(delivery, told, EDITION, job.to)
    const sound = moving && delivery.sound !== false ? soundOf(source, info, first, count) : null
    const fps = info.kind === 'still' ? planned.fps : info.fps
    await runFrames({
      source,
      info,
      first,
      count,
      job,
      pool,
      target: {
        delivery,
        path: staged,
        start: first,
        fps,
        encoding: job.to,
        sound: sound && { ...sound, after: secondsOf(leadOf(delivery), fps) },
        notes: notesOf(delivery, told, EDITION),
        burnIn: burnInOf(delivery, told, slate !== null),
        slate,
      },
      ...(signal ? { signal } : {}),
      onFrame,
    })
    await publish(folder, staged, output, first, count)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

async function publish(folder: string, staged: string, output: Output, first: number, count: number): Promise<void> {
  if (!output.numbered) return rename(staged, output.path)
  for (const path of namesOf(output, first, count)) await rename(join(folder, basename(path)), path)
}

/** The files that will be written. */
const namesOf = ({ path, numbered: many }: Output, first: number, count: number): string[] =>
  many ? Array.from({ length: count }, (_, i) => join(dirname(path), numbered(basename(path), first + i))) : [path]
