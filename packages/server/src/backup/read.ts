import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, readFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { checkRecipe, stepUpToDate, upToDate, type Step } from '@fogbath/core'
import type { TSchema } from 'typebox'
import { openPromise, type Entry, type ZipFile } from 'yauzl'
import { Fault } from '../errors'
import { validator } from '../validate'
import {
  ContentsSchema,
  FORMAT,
  ManifestSchema,
  PATHS,
  VERSION,
  mediumPaths,
  type Contents,
  type Manifest,
} from './contents'

/** Most bytes that a backup may unpack to, so that a small file cannot fill the disk. */
const MOST_UNPACKED = 200e9
/** Most bytes of the two files of text. */
const MOST_TEXT = 512e6

/**
 * Unpacks a backup into a folder and proves that it is whole: every entry is there with the hash that the manifest names,
 * nothing else is, and the contents are valid. Throws a sentence that says what is wrong.
 * @param label name of the file in messages
 */
export async function readBackup(path: string, folder: string, label: string): Promise<Contents> {
  const found = await unpack(path, folder, label)
  const manifest = await read<Manifest>(join(folder, 'manifest.json'), ManifestSchema, label, (value) => {
    const { format, version } = (value ?? {}) as Partial<Manifest>
    if (format === FORMAT && typeof version === 'number' && version > VERSION)
      throw new Fault(
        'media',
        `${label} was made by a later version of Fog Bath (backup version ${version}; this one reads up to ${VERSION}).`,
      )
  })
  const named = new Map(manifest.entries.map((e) => [e.path, e]))
  for (const [entry, hash] of found) {
    if (entry === 'manifest.json') continue
    if (named.get(entry)?.sha256 !== hash) throw damaged(label, `${entry} is not what the manifest names`)
  }
  for (const entry of named.keys()) if (!found.has(entry)) throw damaged(label, `${entry} is missing`)
  const contents = await read<Contents>(join(folder, 'contents.json'), ContentsSchema, label, bringUp)
  await checkContents(contents, found, folder, label)
  return contents
}

/** Recipes of a backup that an earlier version made, with the settings that have come since; what has another form is left to the schema. */
function bringUp(value: unknown): void {
  const shots = listOf(listOf([value], 'productions'), 'shots')
  const versions = listOf(listOf([value], 'shelf'), 'versions')
  for (const kept of [...listOf(shots, 'trials'), ...listOf(shots, 'proofs'), ...versions])
    if (kept['recipe']) kept['recipe'] = upToDate(kept['recipe'])
  for (const { kept } of listOf(shots, 'edits') as { kept?: { step?: Step } }[])
    if (kept?.step) kept.step = stepUpToDate(kept.step)
}

/** The members of a list that things have under a name. */
const listOf = (things: readonly unknown[], name: string): Record<string, unknown>[] =>
  things.flatMap((thing) => {
    const list = (thing as Record<string, unknown> | null)?.[name]
    return Array.isArray(list)
      ? (list.filter((v) => typeof v === 'object' && v !== null) as Record<string, unknown>[])
      : []
  })

const damaged = (label: string, why: string): Fault =>
  new Fault('media', `${label} is damaged or no backup: ${why}. Nothing was changed.`)

/** @returns the hash of each entry */
async function unpack(path: string, folder: string, label: string): Promise<Map<string, string>> {
  const found = new Map<string, string>()
  let zip: ZipFile | undefined
  let bytes = 0
  try {
    zip = await openPromise(path, { strictFileNames: true, autoClose: false })
    for await (const entry of zip.eachEntry()) {
      const { fileName } = entry
      if (!PATHS.test(fileName)) throw damaged(label, `it holds '${fileName.slice(0, 80)}'`)
      if (found.has(fileName)) throw damaged(label, `it holds ${fileName} twice`)
      bytes += entry.uncompressedSize
      if (bytes > MOST_UNPACKED || (fileName.endsWith('.json') && entry.uncompressedSize > MOST_TEXT))
        throw damaged(label, 'it would unpack to more than is taken in')
      found.set(fileName, await unpackEntry(zip, entry, join(folder, fileName)))
    }
  } catch (error) {
    if (error instanceof Fault) throw error
    if ((error as { code?: string }).code === 'ENOSPC')
      throw new Fault('program', `The disk is full: ${label} could not be unpacked.`)
    throw damaged(label, (error as Error).message)
  } finally {
    zip?.close()
  }
  for (const needed of ['manifest.json', 'contents.json'])
    if (!found.has(needed)) throw damaged(label, `it lacks ${needed}`)
  return found
}

async function unpackEntry(zip: ZipFile, entry: Entry, to: string): Promise<string> {
  await mkdir(dirname(to), { recursive: true })
  const hash = createHash('sha256')
  const measure = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk)
      done(null, chunk)
    },
  })
  await pipeline(await zip.openReadStreamPromise(entry), measure, createWriteStream(to))
  return hash.digest('hex')
}

async function read<T>(
  path: string,
  schema: TSchema,
  label: string,
  before: (value: unknown) => void = () => undefined,
): Promise<T> {
  const name = path.slice(path.lastIndexOf('/') + 1)
  let value: unknown
  try {
    value = JSON.parse(await readFile(path, 'utf8'))
  } catch {
    throw damaged(label, `${name} is not JSON`)
  }
  before(value)
  const problem = validator(schema)(value, name)
  if (problem) throw damaged(label, problem.replace(/\.$/, ''))
  return value as T
}

/** What no schema says: references hold, and footage that goes along has its hash. */
async function checkContents(
  { productions, media, shelf = [] }: Contents,
  found: ReadonlyMap<string, string>,
  folder: string,
  label: string,
): Promise<void> {
  const known = new Set(media.map((m) => m.sha256))
  for (const medium of media) {
    const paths = mediumPaths(medium)
    for (const path of paths) if (!found.has(path)) throw damaged(label, `${path} is missing`)
    if (paths.length > 0 && hashOf(medium, paths, found) !== medium.sha256)
      throw damaged(label, `the footage ${medium.name} is not what its hash says`)
  }
  for (const { versions } of shelf) for (const { recipe } of versions) checkRecipe(recipe)
  for (const { shots } of productions)
    for (const { name, medium, trials, chosen, proofs } of shots) {
      if (!known.has(medium)) throw damaged(label, `the shot ${name} names footage that it does not list`)
      if (chosen !== null && !trials.some((t) => t.ref === chosen))
        throw damaged(label, `the shot ${name} has chosen a trial that it does not have`)
      for (const { recipe } of [...trials, ...proofs]) checkRecipe(recipe)
      for (const { picture } of proofs) {
        const start = await readFile(join(folder, picture)).then(
          (bytes) => bytes.subarray(0, 8).toString('latin1'),
          () => '',
        )
        if (start !== '\x89PNG\r\n\x1a\n') throw damaged(label, `${picture} is no PNG`)
      }
    }
}

/** A file's own hash; of a sequence that of its stills' hashes, see MediaStore. */
function hashOf({ sequence }: { sequence: string }, paths: readonly string[], found: ReadonlyMap<string, string>) {
  if (!sequence) return found.get(paths[0]!)
  const hash = createHash('sha256')
  for (const path of paths) hash.update(found.get(path)!)
  return hash.update(sequence).digest('hex')
}
