import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { bathsUpToDate, stepUpToDate, upToDate, withoutTrims, type Bath, type Step } from '@fogbath/core/line'
import type { TSchema } from 'typebox'
import { Fault, sentenceOf } from '../errors'
import { readOwn } from '../files/own'
import { writeWhole } from '../files/writing'
import { checkFrames } from '../limits'
import { hashOfStills } from '../media/health'
import type { MediaInfo } from '@fogbath/contract'
import { describe } from '../media/reach'
import { sourceAt } from '../media/source'
import { parseJson } from '../outside/texts'
import { pngSize } from '../png'
import { validator } from '../validate'
import {
  ContentsSchema,
  FORMAT,
  ManifestSchema,
  VERSION,
  mediumPaths,
  type Contents,
  type ContentsMedium,
  type Manifest,
} from './contents'
import { Directory, damaged } from './directory'
import { checkContents } from './rules'
import { REST, linesOfProduction, pathOfProduction, type Proved } from './unpacked'

export interface ProveTask {
  /** The archive. */
  readonly file: string
  /** Where it is unpacked, and where what it holds is written for those who take it in. */
  readonly folder: string
  /** Name of the file in messages. */
  readonly label: string
  /** Hashes of footage that is here: it need not be tried whether that can be read. */
  readonly here: readonly string[]
}

/**
 * Unpacks a backup and proves that it is whole and right: the directory is looked at first, then the two files of text, then
 * every other entry is held against the hash that the manifest names, and footage is probed. Throws a sentence that says
 * what is wrong.
 * @param tell is told how many bytes of how many have been proved
 */
export async function proveBackup(
  { file, folder, label, here }: ProveTask,
  tell: (done: number, of: number) => void,
): Promise<Proved> {
  const directory = await Directory.open(file, folder, label)
  try {
    const text = await directory.text('manifest.json')
    const manifest = readManifest(text, label)
    const hashes = new Map(manifest.entries.map((e) => [e.path, e.sha256]))
    checkNamed(directory, manifest, label)
    const contents = await readContents(directory, hashes, label)
    await unpackAll(directory, hashes, { folder, label, tell })
    await proveProofs(contents, folder, label)
    await proveMedia(contents, hashes, { folder, label, here: new Set(here) })
    return await writeUnpacked(contents, folder, {
      archive: manifest.id ?? createHash('sha256').update(text).digest('hex'),
      left: manifest.missing ?? [],
    })
  } finally {
    directory.close()
  }
}

function readManifest(text: Buffer, label: string): Manifest {
  return read<Manifest>(text, 'manifest.json', ManifestSchema, label, (value) => {
    const { format, version } = (value ?? {}) as Partial<Manifest>
    if (format === FORMAT && typeof version === 'number' && version > VERSION)
      throw new Fault(
        'media',
        `${label} was made by a later version of Fog Bath (backup version ${version}; this one reads up to ${VERSION}).`,
      )
  })
}

/** The manifest and the directory name the same entries, of the same sizes. */
function checkNamed(directory: Directory, { entries }: Manifest, label: string): void {
  const named = new Set(entries.map((e) => e.path))
  for (const { path, size } of entries) {
    const found = directory.sizeOf(path)
    if (found === undefined) throw damaged(label, `${path} is missing`)
    if (found !== size) throw damaged(label, `${path} is not what the manifest names`)
  }
  for (const path of directory.entries.keys())
    if (path !== 'manifest.json' && !named.has(path)) throw damaged(label, `${path} is not what the manifest names`)
}

async function readContents(
  directory: Directory,
  hashes: ReadonlyMap<string, string>,
  label: string,
): Promise<Contents> {
  const text = await directory.text('contents.json')
  if (createHash('sha256').update(text).digest('hex') !== hashes.get('contents.json'))
    throw damaged(label, 'contents.json is not what the manifest names')
  const contents = parseContents(text, label)
  try {
    checkContents(contents, (path) => directory.sizeOf(path))
  } catch (error) {
    throw damaged(label, bare(error))
  }
  return contents
}

/** What a backup holds, in today's form. @throws Fault that says what is wrong with it */
export const parseContents = (text: Buffer | string, label: string): Contents =>
  read<Contents>(text, 'contents.json', ContentsSchema, label, bringUp)

const bare = (error: unknown): string => sentenceOf(error).replace(/\.$/, '')

function read<T>(
  text: Buffer | string,
  name: string,
  schema: TSchema,
  label: string,
  before: (value: unknown) => void = () => undefined,
): T {
  let value: unknown
  try {
    value = parseJson(text.toString('utf8'), name)
  } catch (error) {
    throw damaged(label, bare(error))
  }
  before(value)
  const problem = validator(schema)(value, name)
  if (problem) throw damaged(label, problem.replace(/\.$/, ''))
  return value as T
}

/** What an earlier version wrote, in today's form, with the settings that have come since; what has another form is left to the schema. */
function bringUp(value: unknown): void {
  const shots = listOf(listOf([value], 'productions'), 'shots')
  const versions = listOf(listOf([value], 'shelf'), 'versions')
  const [trials, proofs] = [listOf(shots, 'trials'), listOf(shots, 'proofs')]
  for (const kept of [...shots, ...proofs]) bringUpTrims(kept)
  for (const kept of [...trials, ...proofs]) kept['after'] ??= []
  for (const kept of [...trials, ...proofs, ...versions]) if (kept['recipe']) kept['recipe'] = upToDate(kept['recipe'])
  for (const kept of [...shots, ...trials, ...proofs])
    for (const part of ['preparation', 'after'])
      if (Array.isArray(kept[part])) kept[part] = bathsUpToDate(kept[part] as Bath[])
  for (const { kept } of listOf(shots, 'edits') as { kept?: { step?: Step } }[])
    if (kept?.step) kept.step = stepUpToDate(kept.step)
}

function bringUpTrims(kept: Record<string, unknown>): void {
  if (typeof kept['trims'] !== 'object' || kept['trims'] === null) return
  Object.assign(kept, withoutTrims(kept))
  delete kept['trims']
}

/** The members of a list that things have under a name. */
const listOf = (things: readonly unknown[], name: string): Record<string, unknown>[] =>
  things.flatMap((thing) => {
    const list = (thing as Record<string, unknown> | null)?.[name]
    return Array.isArray(list)
      ? (list.filter((v) => typeof v === 'object' && v !== null) as Record<string, unknown>[])
      : []
  })

async function unpackAll(
  directory: Directory,
  hashes: ReadonlyMap<string, string>,
  { folder, label, tell }: { folder: string; label: string; tell: (done: number, of: number) => void },
): Promise<void> {
  const entries = [...directory.entries].filter(([path]) => !path.endsWith('.json'))
  const of = entries.reduce((sum, [, entry]) => sum + entry.uncompressedSize, 0)
  let done = 0
  for (const [path, entry] of entries) {
    if ((await directory.unpack(path, join(folder, path))) !== hashes.get(path))
      throw damaged(label, `${path} is not what the manifest names`)
    tell((done += entry.uncompressedSize), of)
  }
}

async function proveProofs({ productions }: Contents, folder: string, label: string): Promise<void> {
  for (const { shots } of productions)
    for (const { picture, width, height } of shots.flatMap((shot) => shot.proofs)) {
      const size = pngSize(await readOwn(join(folder, picture)))
      if (!size) throw damaged(label, `${picture} is no PNG`)
      if (size.width !== width || size.height !== height)
        throw damaged(label, `${picture} is ${size.width}x${size.height} and not ${width}x${height}`)
    }
}

/** Footage that goes along has its hash, can be read, and is as long as its shots need it; what probing says counts. */
async function proveMedia(
  { productions, media }: Contents,
  hashes: ReadonlyMap<string, string>,
  { folder, label, here }: { folder: string; label: string; here: ReadonlySet<string> },
): Promise<void> {
  for (const medium of media) {
    const paths = mediumPaths(medium)
    if (paths.length === 0) continue
    const stills = paths.map((path) => hashes.get(path)!)
    if ((medium.sequence ? hashOfStills(stills, medium.sequence) : stills[0]) !== medium.sha256)
      throw damaged(label, `the footage ${medium.name} is not what its hash says`)
    if (here.has(medium.sha256)) continue
    const info = await probeUnpacked(medium, folder, label)
    for (const shot of productions.flatMap(({ shots }) => shots))
      if (shot.medium === medium.sha256) checked(label, () => checkFrames(shot, info))
    medium.info = { ...info, encoding: medium.sequence ? medium.info.encoding : info.encoding }
  }
}

async function probeUnpacked(medium: ContentsMedium, folder: string, label: string): Promise<MediaInfo> {
  try {
    return await describe(sourceAt(join(folder, 'media', medium.sha256), medium), medium.name)
  } catch (error) {
    throw damaged(label, bare(error))
  }
}

function checked(label: string, check: () => void): void {
  try {
    check()
  } catch (error) {
    throw damaged(label, bare(error))
  }
}

/** A line for each shot, so that whoever takes them in holds one at a time. */
async function writeUnpacked(
  { productions, media, shelf = [], masks = [], encodings = [], favourites = [] }: Contents,
  folder: string,
  { archive, left }: Pick<Proved, 'archive' | 'left'>,
): Promise<Proved> {
  for (const [i, production] of productions.entries()) {
    const path = pathOfProduction(folder, i)
    await rm(path, { force: true })
    await pipeline(linesOfProduction(production), createWriteStream(path))
  }
  await writeWhole(join(folder, REST), JSON.stringify({ media, shelf, masks, encodings, favourites }))
  return {
    archive,
    left: [...left],
    productions: productions.map(({ name, shots }) => ({
      name,
      shots: shots.length,
      proofs: shots.reduce((sum, s) => sum + s.proofs.length, 0),
    })),
  }
}
