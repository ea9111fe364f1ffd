import { basename, join, resolve } from 'node:path'
import {
  deliveryByEnding,
  deliveryFormat,
  distinctNames,
  nameFor,
  type Delivery,
  type DeliveryId,
} from '@fogbath/core/delivery'
import { encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import { readAs, type Reading } from '@fogbath/core/footage'
import {
  NOTHING_AROUND,
  checkAround,
  otherFootage,
  timeOf,
  tracksFollowed,
  type Around,
  type Recipe,
} from '@fogbath/core/line'
import { framesASecond, timecode } from '@fogbath/core/numbers'
import { checkTracks, type Track } from '@fogbath/core/tracking'
import { Fault } from '../errors'
import { probe } from '../media/probe'
import { FramePool } from '../render/pool'
import { exists, withInput, type Input } from './inputs'
import { doWork, outputAt, planInWords, planWork, type Planned } from './work'

export interface ProcessOptions {
  readonly recipe: Recipe
  /** What stands around the recipe; nothing when left out. */
  readonly around?: Around
  /** What its masks follow. */
  readonly tracks?: readonly Track[]
  /** Files that are read besides the inputs: none of them is written over. */
  readonly reads?: readonly string[]
  /** One output for all inputs, which are one clip, one still or a sequence. */
  readonly output?: string
  /** A folder in place of it: each input is put through by itself. */
  readonly out?: string
  /** What the outputs become; by the ending of the output alone when left out. */
  readonly delivery?: Delivery
  readonly format?: string
  readonly encoding?: EncodingRef
  /** How the input is read beside what its file says. */
  readonly reading?: Reading
  readonly to?: EncodingRef
  readonly frames?: string
  readonly fps?: string
  /** Threads that share the work on a frame, 1 to 64. */
  readonly threads?: string
  /** Existing outputs are written over unasked. */
  readonly force?: boolean
  /** Only tells what would be done. */
  readonly dryRun?: boolean
  /** Stops the work; nothing half-made is left. */
  readonly signal?: AbortSignal
  readonly onProgress?: (done: number, of: number) => void
  /** Is told what is to be known of the result. */
  readonly onRemark?: (sentence: string) => void
}

/** What was done, or would be. */
export type Done = ReturnType<typeof planInWords>

/** Puts inputs through a recipe: all as one into one output, or each into a file of a folder. */
export async function processFiles(inputs: readonly string[], options: ProcessOptions): Promise<Done[]> {
  const { output, out, fps = '24' } = options
  if (!/^\d+(\/[1-9]\d*|\.\d+)?$/.test(fps) || framesASecond(fps) === 0)
    throw new Fault('usage', `--fps is '${fps}'; it must be a number such as 24 or 24000/1001.`)
  const threads = parseThreads(options.threads)
  if ((output === undefined) === (out === undefined))
    throw new Fault('usage', 'Say where to: -o FILE for one output, or --out FOLDER for one of each input.')
  const delivery = deliveryOf(options)
  const pool = new FramePool({ threads })
  try {
    if (output !== undefined) {
      const to = outputAt(output, { ...delivery, format: delivery.format ?? deliveryByEnding(endingOf(output)) })
      const work = (input: Input) => oneOf(input, to.path, { ...options, delivery: to.delivery }, fps, pool)
      return [await withInput(inputs, fps, work)]
    }
    const { format } = delivery
    if (!format) throw new Fault('usage', 'With --out, say what is written: --preset NAME or --format ID.')
    const paths = await pathsIn(out!, inputs, { ...delivery, format }, options)
    const done: Done[] = []
    for (const [i, input] of inputs.entries()) {
      const work = (one: Input) => oneOf(one, paths[i]!, { ...options, delivery: { ...delivery, format } }, fps, pool)
      done.push(await withInput([input], fps, work))
    }
    return done
  } finally {
    await pool.close()
  }
}

const endingOf = (path: string): string => /\.(\w+)$/.exec(path)?.[1] ?? ''

function deliveryOf({
  delivery,
  format,
}: ProcessOptions): Omit<Delivery, 'format'> & { format?: DeliveryId | undefined } {
  return { ...delivery, ...(format !== undefined && { format: format as DeliveryId }) }
}

/** A file in the folder for each input, called as the delivery calls shots: by its own name. */
async function pathsIn(
  out: string,
  inputs: readonly string[],
  delivery: Delivery,
  { recipe }: ProcessOptions,
): Promise<string[]> {
  if (!(await exists(out))) throw new Fault('usage', `The folder ${out} does not exist.`)
  const { moving, ending } = deliveryFormat(delivery.format)
  const date = new Date().toISOString().slice(0, 10)
  const names = inputs.map((input, i) =>
    nameFor(delivery.names ?? '{shot}', {
      production: '',
      shot: basename(input).replace(/\.[^.]+$/, ''),
      trial: 'A',
      recipe: recipe.name,
      date,
      number: String(i + 1).padStart(3, '0'),
      timecode: timecode(0, '24').replaceAll(':', '-'),
      frame: '0',
    }),
  )
  return distinctNames(names).map((name) => join(resolve(out), `${name}${moving ? '' : '.%04d'}.${ending}`))
}

/** More threads than this are a slip of the keyboard. */
const MOST_THREADS = 64
/** A number of threads, or none for the usual one. */
function parseThreads(text: string | undefined): number | undefined {
  if (text === undefined) return undefined
  const threads = Number(text)
  if (!/^\d+$/.test(text) || threads < 1 || threads > MOST_THREADS)
    throw new Fault('usage', `--threads is '${text}'; it must be a whole number from 1 to ${MOST_THREADS}.`)
  return threads
}

/** `10-40` or `7`, counted from 0. */
function parseFrames(text: string | undefined, frames: number): { first: number; count: number } {
  if (text === undefined) return { first: 0, count: frames }
  const match = /^(\d+)(?:-(\d+))?$/.exec(text)
  if (!match) throw new Fault('usage', `--frames is '${text}'; it must be a number or a range such as 10-40.`)
  const first = Number(match[1])
  const last = Number(match[2] ?? match[1])
  if (last < first) throw new Fault('usage', `--frames ${text} runs backwards; give the lower frame first.`)
  if (last >= frames)
    throw new Fault('usage', `--frames ${text} goes beyond the input, which has frames 0 to ${frames - 1}.`)
  return { first, count: last - first + 1 }
}

async function oneOf(
  { source, label, files }: Input,
  path: string,
  options: ProcessOptions & { readonly delivery: Delivery },
  fps: string,
  pool: FramePool,
): Promise<Done> {
  const { around = NOTHING_AROUND, recipe, delivery, tracks = [] } = options
  const line = { ...around, recipe }
  checkAround(line)
  const info = readAs(await probe(source, label), options.reading ?? {})
  checkTracks(tracks, info.frames)
  const time = timeOf({ first: 0, last: info.frames - 1, tracks }, line)
  const order = { ...line, time, encoding: options.encoding ?? info.profile ?? info.encoding }
  const planned: Planned = await planWork({
    source,
    info,
    label,
    order,
    output: outputAt(path, delivery),
    ...parseFrames(options.frames, info.frames),
    fps,
    to: options.to ?? delivery.to,
    reads: [...files, ...(options.reads ?? [])],
    force: options.force ?? false,
  })
  const remark = otherFootage(order.recipe, encodingOf(order.encoding).refers)
  if (remark) options.onRemark?.(remark)
  for (const id of tracksFollowed(line))
    if (!tracks.some((t) => t.id === id))
      options.onRemark?.(`A mask follows the track ${id}, which was not given (--tracks): it stands as it is drawn.`)
  const { count } = planned
  if (!options.dryRun)
    await doWork(planned, pool, { signal: options.signal, onFrame: (done) => options.onProgress?.(done, count) })
  return planInWords(planned)
}
