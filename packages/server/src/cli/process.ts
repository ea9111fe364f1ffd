import { mkdtemp, rename, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { basename, dirname, extname, join, resolve } from 'node:path'
import { encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import { readAs, type Reading } from '@fogbath/core/footage'
import { DELIVERY_ENDINGS, deliveryByEnding, deliveryFormat, type DeliveryId } from '@fogbath/core/delivery'
import { NOTHING_AROUND, checkAround, otherFootage, type Around, type Recipe } from '@fogbath/core/line'
import { framesASecond } from '@fogbath/core/numbers'
import { Fault } from '../errors'
import type { MediaInfo } from '@fogbath/contract'
import { probe } from '../media/probe'
import { soundOf } from '../media/sound'
import { withPlainName } from '../media/plain-name'
import { linkSequence, type Source } from '../media/source'
import { makeJob } from '../render/job'
import { checkOutputs } from './outputs'
import { FramePool } from '../render/pool'
import { runFrames } from '../render/run'

export interface ProcessOptions {
  readonly recipe: Recipe
  /** What stands around the recipe; nothing when left out. */
  readonly around?: Around
  /** Files that are read besides the inputs: none of them is written over. */
  readonly reads?: readonly string[]
  readonly output: string
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
  /** Stops the work; nothing half-made is left. */
  readonly signal?: AbortSignal
  readonly onProgress?: (done: number, of: number) => void
  /** Is told what is to be known of the result. */
  readonly onRemark?: (sentence: string) => void
}

/** Puts inputs (one clip, one still, or several stills as a sequence) through a recipe into the output. */
export async function processFiles(inputs: readonly string[], options: ProcessOptions): Promise<number> {
  const output = parseOutput(options.output)
  const fps = options.fps ?? '24'
  if (!/^\d+(\/[1-9]\d*|\.\d+)?$/.test(fps) || framesASecond(fps) === 0)
    throw new Fault('usage', `--fps is '${fps}'; it must be a number such as 24 or 24000/1001.`)
  parseThreads(options.threads)
  const work = (source: Source, label: string, files: readonly string[]) =>
    processSource(source, label, files, output, options, fps)
  if (inputs.length === 1) {
    const [input] = inputs as [string]
    const pattern = await expandPattern(input, fps)
    if (pattern) return work(pattern.source, input, pattern.files)
    return withPlainName(input, (path) => work({ type: 'file', path }, input, inputs))
  }
  const folder = await mkdtemp(join(tmpdir(), 'fogbath-sequence-'))
  try {
    await checkStills(inputs)
    return await work(
      await linkSequence(inputs, folder, fps),
      `${inputs.length} files from ${basename(inputs[0]!)} on`,
      inputs,
    )
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

async function checkStills(inputs: readonly string[]): Promise<void> {
  let first: MediaInfo | undefined
  for (const input of inputs) {
    const info = await withPlainName(input, (path) => probe({ type: 'file', path }, input))
    if (info.kind !== 'still')
      throw new Fault('usage', `${input} is a clip; several inputs must all be stills. Give clips one at a time.`)
    first ??= info
    if (info.width !== first.width || info.height !== first.height)
      throw new Fault(
        'usage',
        `${input} is ${info.width}x${info.height}, but ${inputs[0]} is ${first.width}x${first.height}; a sequence has one size.`,
      )
  }
}

/** `name.%04d.png` as an input: counts the files that are there without a gap. */
async function expandPattern(input: string, fps: string): Promise<{ source: Source; files: string[] } | null> {
  const match = /%0?(\d*)d/.exec(basename(input))
  if (!match || (await exists(input))) return null
  const name = (i: number) => numbered(input, i)
  let start = 0
  while (start < 100_000 && !(await exists(name(start)))) start++
  if (start === 100_000) throw new Fault('media', `${input} matches no file.`)
  let frames = 0
  while (await exists(name(start + frames))) frames++
  const files = Array.from({ length: frames }, (_, i) => name(start + i))
  return { source: { type: 'sequence', pattern: resolve(input), start, frames, fps }, files }
}

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  )

/** More threads than this are a slip of the keyboard. */
const MOST_THREADS = 64

interface Output {
  readonly format: DeliveryId
  readonly moving: boolean
  readonly path: string
  readonly numbered: boolean
}

function parseOutput(path: string): Output {
  const format = deliveryByEnding(extname(path).slice(1))
  if (!format) throw new Fault('usage', `The output '${path}' must end in one of ${DELIVERY_ENDINGS.join(' ')}.`)
  const { moving } = deliveryFormat(format)
  const numbered = /%0?\d*d/.test(basename(path))
  if (numbered && moving) throw new Fault('usage', `The output '${path}' is one clip and cannot be numbered.`)
  return { format, moving, path: resolve(path), numbered }
}

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

async function processSource(
  source: Source,
  label: string,
  files: readonly string[],
  output: Output,
  options: ProcessOptions,
  fps: string,
): Promise<number> {
  const { around = NOTHING_AROUND } = options
  checkAround({ ...around, recipe: options.recipe })
  const info = readAs(await probe(source, label), options.reading ?? {})
  const { first, count } = parseFrames(options.frames, info.frames)
  if (count > 1 && !output.numbered && !output.moving)
    throw new Fault(
      'usage',
      `${label} has ${count} frames but '${options.output}' is one picture; number it (out.%04d.${output.format}) or choose a frame with --frames N.`,
    )
  await checkOutputs(namesOf(output, first, count), [...files, ...(options.reads ?? [])], options.force ?? false)
  const order = { ...around, recipe: options.recipe, encoding: options.encoding ?? info.profile ?? info.encoding }
  const remark = otherFootage(order.recipe, encodingOf(order.encoding).refers)
  if (remark) options.onRemark?.(remark)
  const job = makeJob(order, output.format, options.to)
  const pool = new FramePool({ threads: parseThreads(options.threads) })
  const folder = await stagingFolder(output.path)
  try {
    const staged = join(folder, basename(output.path))
    const target = {
      format: output.format,
      path: staged,
      start: first,
      fps: info.kind === 'still' ? fps : info.fps,
      encoding: job.to,
      sound: output.moving ? soundOf(source, info, first, count) : null,
    }
    await runFrames({
      source,
      info,
      first,
      count,
      job,
      target,
      pool,
      ...(options.signal ? { signal: options.signal } : {}),
      onFrame: (done) => options.onProgress?.(done, count),
    })
    await publish(folder, staged, output, first, count)
    return count
  } finally {
    await pool.close()
    await rm(folder, { recursive: true, force: true })
  }
}

/** Work lies beside the output until it is whole, so that nothing half-made is ever left under its name. */
async function stagingFolder(path: string): Promise<string> {
  const folder = dirname(path)
  if (!(await exists(folder))) throw new Fault('usage', `The folder ${folder} does not exist.`)
  return mkdtemp(join(folder, '.fogbath-'))
}

async function publish(folder: string, staged: string, output: Output, first: number, count: number): Promise<void> {
  if (!output.numbered) return rename(staged, output.path)
  for (const path of namesOf(output, first, count)) await rename(join(folder, basename(path)), path)
}

/** The files that will be written. */
const namesOf = ({ path, numbered: many }: Output, first: number, count: number): string[] =>
  many ? Array.from({ length: count }, (_, i) => join(dirname(path), numbered(basename(path), first + i))) : [path]

/** A name with its %04d filled in. */
const numbered = (name: string, i: number): string =>
  name.replace(/%0?(\d*)d/, (_, digits: string) => String(i).padStart(Number(digits || 1), '0'))
