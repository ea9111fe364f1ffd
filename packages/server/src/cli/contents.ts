import { basename, dirname, join } from 'node:path'
import { deliveryFormat, distinctNames, nameFor, USUAL_NAMES, type Delivery } from '@fogbath/core/delivery'
import { readAs } from '@fogbath/core/footage'
import { timeOf } from '@fogbath/core/line'
import { timecode } from '@fogbath/core/numbers'
import { defineEncoding, encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import type { Contents, ContentsMedium, ContentsShot } from '../backup/contents'
import { parseContents } from '../backup/prove'
import { Fault } from '../errors'
import { listInside, openInside, openRegular, readText, withHandle } from '../files/inside'
import { hashOfStream } from '../media/health'
import { probe } from '../media/probe'
import { withPlainName } from '../media/plain-name'
import { sourceAt } from '../media/source'
import { FramePool } from '../render/pool'
import { exists } from './inputs'
import { doWork, outputAt, planInWords, planWork } from './work'

const MOST_BYTES = 256e6
const MOST_ENTRIES = 100_000

interface Options {
  readonly delivery: Delivery
  readonly out: string
  /** Names or numbers of shots, as they are asked for; all when left out. */
  readonly shots?: readonly string[]
  /** Where footage lies that is not beside the contents. */
  readonly media?: string
  readonly force: boolean
  readonly dryRun: boolean
  readonly signal: AbortSignal
  readonly onProgress: (done: number, of: number) => void
}
type Done = ReturnType<typeof planInWords>

/** Renders shots of contents as a backup holds them, with the footage that lies unpacked beside them or in a folder. */
export async function renderContents(file: string, options: Options): Promise<Done[]> {
  const contents = parseContents(await readText(openRegular(file), MOST_BYTES, file), file)
  const own = new Map((contents.encodings ?? []).map(defineEncoding).map((e) => [e.id, e]))
  const found = await footageOf(contents, dirname(file), options.media)
  const wanted = chosen(contents, options.shots)
  if (!(await exists(options.out))) throw new Fault('usage', `The folder ${options.out} does not exist.`)
  const names = distinctNames(wanted.map((one) => nameOf(one, contents, options.delivery)))
  const pool = new FramePool()
  const done: Done[] = []
  try {
    for (const [i, { shot }] of wanted.entries()) {
      const medium = contents.media.find(({ sha256 }) => sha256 === shot.medium)!
      const path = found.get(medium.sha256)
      if (path === undefined)
        throw new Fault(
          'media',
          `The footage of ${shot.name}, ${medium.name}, is not here; say with --media where it lies.`,
        )
      done.push(await one(shot, medium, path, names[i]!, own, options, pool))
    }
  } finally {
    await pool.close()
  }
  return done
}

type Chosen = { readonly shot: ContentsShot; readonly production: string; readonly number: number }
function chosen({ productions }: Contents, shots: readonly string[] | undefined): Chosen[] {
  const all = productions.flatMap(({ name, shots: own }) =>
    own.map((shot, i) => ({ shot, production: name, number: i + 1 })),
  )
  if (!shots) return all
  return shots.map((asked) => {
    const found = all.find(({ shot, number }) => shot.name === asked || String(number) === asked)
    if (!found)
      throw new Fault('usage', `There is no shot '${asked}'; there are ${all.map(({ shot }) => shot.name).join(', ')}.`)
    return found
  })
}

const trialOf = ({ trials, chosen: ref }: ContentsShot) => trials.find((t) => t.ref === ref) ?? trials[0]!

function nameOf(
  { shot, production, number }: Chosen,
  { media }: Contents,
  { names = USUAL_NAMES, handles = 0 }: Delivery,
): string {
  const { info } = media.find(({ sha256 }) => sha256 === shot.medium)!
  const first = Math.max(0, shot.first - handles)
  const trial = trialOf(shot)
  return nameFor(names, {
    production,
    shot: shot.name,
    trial: trial.name,
    recipe: trial.recipe.name,
    date: new Date().toISOString().slice(0, 10),
    number: String(number).padStart(3, '0'),
    timecode: timecode(first, info.fps, info.timecode).replace(/[:;]/g, '-'),
    frame: String(first),
  })
}

/** Where the footage lies: by its hash beside the contents, or by its name in a folder, held against its hash. */
async function footageOf(
  { media }: Contents,
  folder: string,
  other: string | undefined,
): Promise<ReadonlyMap<string, string>> {
  const found = new Map<string, string>()
  for (const { sha256 } of media) {
    const beside = join(folder, 'media', sha256)
    if (await exists(beside)) found.set(sha256, beside)
  }
  if (other === undefined) return found
  const inside = { path: other, name: 'the folder' }
  const { files } = await listInside(inside, { deep: true, most: MOST_ENTRIES })
  for (const { sha256, name, size, sequence } of media) {
    if (found.has(sha256) || sequence) continue
    const named = files.filter((f) => f.size === size && basename(f.path) === basename(name))
    for (const { path } of named)
      if ((await withHandle(openInside(inside, path), hashOfStream)) === sha256) found.set(sha256, join(other, path))
  }
  return found
}

async function one(
  shot: ContentsShot,
  medium: ContentsMedium,
  path: string,
  name: string,
  own: ReadonlyMap<string, EncodingRef>,
  { delivery, out, force, dryRun, signal, onProgress }: Options,
  pool: FramePool,
): Promise<Done> {
  const work = async (plain: string): Promise<Done> => {
    const source = sourceAt(plain, medium)
    const info = readAs(await probe(source, medium.name), shot.reading ?? {})
    const { recipe, after } = trialOf(shot)
    const { handles = 0 } = delivery
    const first = Math.max(0, shot.first - handles)
    const count = Math.min(info.frames - 1, shot.last + handles) - first + 1
    const encoding = own.get(shot.encoding) ?? shot.encoding
    encodingOf(encoding)
    const { moving, ending } = deliveryFormat(delivery.format)
    const output = outputAt(join(out, `${name}${moving ? '' : '.%04d'}.${ending}`), delivery)
    const line = { preparation: shot.preparation, recipe, after }
    const time = timeOf({ first: shot.first, last: shot.last, tracks: shot.tracks ?? [] }, line)
    const order = { ...line, time, encoding }
    const to = delivery.to === undefined ? undefined : (own.get(delivery.to) ?? delivery.to)
    const fps = info.kind === 'still' ? '24' : info.fps
    const planned = await planWork({
      source,
      info,
      label: shot.name,
      order,
      output,
      first,
      count,
      fps,
      to,
      reads: [path],
      force,
    })
    if (!dryRun) await doWork(planned, pool, { signal, onFrame: (done) => onProgress(done, count) })
    return planInWords(planned)
  }
  return medium.sequence ? work(path) : withPlainName(path, work)
}
