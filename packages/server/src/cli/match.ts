import { basename } from 'node:path'
import { three } from '@fogbath/core/colour'
import { encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import { Pictures, makeIngest } from '@fogbath/core/cpu'
import { NOTHING_AROUND, entryOf, type Refers } from '@fogbath/core/line'
import { MATCH_KINDS, matchReference, type MatchResult } from '@fogbath/core/match'
import { plainStages } from '@fogbath/core/stages'
import { Fault } from '../errors'
import { decodeFrames } from '../media/decode'
import { probe } from '../media/probe'
import { withPlainName } from '../media/plain-name'
import { checkOutputs, writeOutput } from './outputs'

export interface MatchOptions {
  /** Files, and the frames that are looked at in each. */
  readonly to: readonly string[]
  readonly output: string
  readonly kind?: string
  readonly frame: number
  readonly toFrame: readonly number[]
  readonly encoding?: EncodingRef
  readonly toEncoding?: EncodingRef
  /** Both show the same frame, so that it is compared pixel by pixel. */
  readonly sameFrame?: boolean
  readonly force?: boolean
  readonly onProgress: (words: string) => void
}

/** Width at which pictures are compared, pixels. */
const WIDTH = 320

/** Fits a process to a reference and writes the recipe. @returns what is to be told, line by line */
export async function matchFiles(input: string, options: MatchOptions): Promise<string[]> {
  const { to, output, kind, sameFrame = false, force = false } = options
  if (!output.endsWith('.json')) throw new Fault('usage', `The output '${output}' must end in .json.`)
  if (kind !== undefined && !MATCH_KINDS.includes(kind))
    throw new Fault('usage', `'${kind}' is no process; use one of: ${MATCH_KINDS.join(', ')}.`)
  await checkOutputs([output], [input, ...to], force)
  const own = await pictureOf(input, options.frame, options.encoding)
  const references: Float32Array[] = []
  for (const path of to)
    for (const frame of options.toFrame)
      references.push(asSeen(await pictureOf(path, frame, options.toEncoding, sameFrame ? own : undefined)))
  const result = await matchReference(
    {
      footage: own.pixels,
      refers: own.refers,
      around: NOTHING_AROUND,
      sameFrame,
      references,
      kinds: kind === undefined ? MATCH_KINDS : [kind],
    },
    ({ kind: trying, step, distance }) => options.onProgress(`${trying}, step ${step}: ${distance.toFixed(2)}`),
  )
  await writeOutput(output, `${JSON.stringify({ ...result.recipe, id: 'matched' }, null, 2)}\n`)
  return [`${output}: written`, ...tellMatch(result, to.map((path) => basename(path)).join(', '), sameFrame)]
}

function tellMatch({ kind, before, after, moved, misses }: MatchResult, to: string, sameFrame: boolean): string[] {
  const measure = sameFrame ? 'mean CIEDE2000' : 'distance of distributions'
  return [
    `${kind}: ${measure} from ${to} ${before.toFixed(2)} before, ${after.toFixed(2)} after`,
    ...moved.map(({ title, value, usual }) => `  ${title} ${value ?? ''}${usual === null ? '' : ` (${usual})`}`),
    ...misses.map((words) => `not reached: ${words}`),
  ]
}

interface Seen {
  readonly pixels: Float32Array
  readonly refers: Refers
  readonly width: number
  readonly height: number
}

/** A frame as a line takes it, small. @param like makes it of that size, whatever its shape */
async function pictureOf(
  path: string,
  frame: number,
  encoding: EncodingRef | undefined,
  like?: { readonly width: number; readonly height: number },
): Promise<Seen> {
  return withPlainName(path, async (plain) => {
    const source = { type: 'file', path: plain } as const
    const info = await probe(source, path)
    if (frame >= info.frames)
      throw new Fault('usage', `Frame ${frame} of ${path} does not exist; it has frames 0 to ${info.frames - 1}.`)
    const width = like?.width ?? Math.min(WIDTH, info.width)
    const height = like?.height ?? Math.max(1, Math.round((info.height * width) / info.width))
    const taken = encodingOf(encoding ?? info.profile ?? info.encoding)
    for await (const { data } of decodeFrames(source, info, { first: frame, count: 1, width, height })) {
      const picture = new Pictures().take('frame', width * height)
      makeIngest(taken, info.float ? 'f32' : 'u16')(data, picture)
      return { pixels: picture.pixels.slice(0, 4 * width * height), refers: taken.refers, width, height }
    }
    throw new Fault('media', `${path} gave no picture.`)
  })
}

/** Display code values: a reference of camera light is seen as it comes, without a process. */
function asSeen({ pixels, refers }: Seen): Float32Array {
  if (refers === 'display') return pixels
  const seen = plainStages(entryOf([], refers).untreated)
  const out = three()
  const codes = pixels.slice()
  for (let at = 0; at < codes.length; at += 4) {
    seen(pixels[at]!, pixels[at + 1]!, pixels[at + 2]!, out)
    codes.set(out, at)
  }
  return codes
}
