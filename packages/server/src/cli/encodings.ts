import { existsSync } from 'node:fs'
import { dirname, extname, isAbsolute, join } from 'node:path'
import {
  EncodingDefinitionSchema,
  CURVE_TYPES,
  EncodingParametersSchemas,
  ENCODING_IDS,
  TABLE_ENDINGS,
  defineEncoding,
  encodingById,
  encodingOfParameters,
  encodingOfTable,
  readEncodings,
  type EncodingDefinition,
  type EncodingDraft,
  type EncodingParameters,
  type EncodingRef,
  type FilesIn,
  type FoundEncodings,
} from '@fogbath/core/encodings'
import { Fault, sentenceOf } from '../errors'
import { openRegular, readText } from '../files/inside'
import { parseJson } from '../outside/texts'
import { validator } from '../validate'

/** Largest file of encodings, bytes, and largest of those that it names. */
const MOST_BYTES = 90e6

/** The text of a file that another one names, beside it or in folders that it names; null where there is none. */
async function textBeside(file: string, folders: readonly string[], src: string): Promise<string | null> {
  const from = (folder: string): string => join(isAbsolute(folder) ? '' : dirname(file), folder, src)
  const places = isAbsolute(src) ? [src] : [join(dirname(file), src), ...folders.map(from)]
  const path = places.find((place) => existsSync(place))
  return path === undefined ? null : readText(openRegular(path), MOST_BYTES, src)
}

/** Reads what names other files: once to hear which, once with what they hold. */
async function withFiles<T>(file: string, read: (filesIn: FilesIn) => T): Promise<T> {
  const named = new Map<string, readonly string[]>()
  read((folders) => (src) => {
    named.set(src, folders)
    return null
  })
  const texts = new Map<string, string | null>()
  for (const [src, folders] of named) texts.set(src, await textBeside(file, folders, src))
  return read(() => (src) => texts.get(src) ?? null)
}

const ofCurve = {
  log: validator(EncodingParametersSchemas.log),
  gamma: validator(EncodingParametersSchemas.gamma),
  linear: validator(EncodingParametersSchemas.linear),
}
/** What is wrong with an encoding by parameters, told of the type of curve that it names. */
function parametersFault(entry: EncodingParameters): string | null {
  const { type } = (entry.curve ?? {}) as { type?: unknown }
  const known = CURVE_TYPES.find((t) => t === type)
  if (known) return ofCurve[known](entry, 'encoding')
  return `encoding/curve/type is ${JSON.stringify(type)}; it must be one of: ${CURVE_TYPES.join(', ')}.`
}
const definitionFault = validator(EncodingDefinitionSchema)

interface TableEntry {
  readonly name?: string
  readonly file: string
  readonly gives?: string
}
type Entry = EncodingParameters | EncodingDraft | TableEntry

/** One encoding of a JSON file: a table with what it gives, whole steps, or parameters. */
function definedBy(entry: Entry, filesIn: FilesIn): EncodingDefinition {
  if ('file' in entry) {
    const text = filesIn([])(entry.file)
    if (text === null) throw new Fault('usage', `The file '${entry.file}' is not there.`)
    return encodingOfTable(entry.file, text, entry.gives, entry.name)
  }
  const fault = 'ops' in entry ? definitionFault(entry, 'encoding') : parametersFault(entry)
  if (fault) throw new Fault('usage', fault)
  return 'ops' in entry ? defineEncoding(entry) : encodingOfParameters(entry)
}

/** A JSON file of encodings: one, a list, or a list under `encodings`. */
function fromJson(file: string, text: string, filesIn: FilesIn): FoundEncodings {
  const whole = parseJson(text, file) as Entry | Entry[] | { encodings: Entry[] }
  const entries = [whole && typeof whole === 'object' && 'encodings' in whole ? whole.encodings : whole].flat()
  const encodings: EncodingDefinition[] = []
  const left: { name: string; reason: string }[] = []
  for (const [i, entry] of entries.entries()) {
    const name = String((entry as { name?: unknown } | null)?.name ?? `encoding ${i + 1}`)
    try {
      if (!entry || typeof entry !== 'object') throw new Fault('usage', 'It is no object.')
      encodings.push(definedBy(entry, filesIn))
    } catch (error) {
      left.push({ name, reason: sentenceOf(error) })
    }
  }
  return { encodings, left }
}

/** All that a file of encodings holds. Throws naming the file where it cannot be read at all. */
export async function loadEncodings(file: string): Promise<FoundEncodings> {
  const ending = extname(file).slice(1).toLowerCase()
  const known = ['json', 'ocio', ...TABLE_ENDINGS]
  if (!known.includes(ending))
    throw new Fault('usage', `--encodings is '${file}'; it must end in one of: ${known.map((e) => `.${e}`).join(' ')}.`)
  const text = await readText(openRegular(file), MOST_BYTES, file)
  if (ending === 'json') return withFiles(file, (filesIn) => fromJson(file, text, filesIn))
  try {
    return await withFiles(file, (filesIn) => readEncodings(file, text, filesIn))
  } catch (error) {
    throw new Fault('usage', `${file}: ${sentenceOf(error)}`)
  }
}

/** An encoding by its name in a file, or by the id of a shipped one. Throws naming what there is. */
export function encodingNamed(name: string, file: string | undefined, found: FoundEncodings | null): EncodingRef {
  if (!found) return encodingById(name).id
  const like = (own: string): boolean => own.toLowerCase() === name.toLowerCase()
  const own = found.encodings.find((e) => e.name === name) ?? found.encodings.find((e) => like(e.name))
  if (own) return own
  const left = found.left.find((e) => like(e.name))
  if (left) throw new Fault('usage', `'${name}' of ${file} cannot be taken: ${left.reason}`)
  if (ENCODING_IDS.includes(name)) return name
  const names = found.encodings.map((e) => e.name)
  const holds = names.length > 0 ? names.slice(0, 40).join(', ') : 'none that can be taken'
  throw new Fault(
    'usage',
    `'${name}' is neither an encoding of ${file} (${holds}) nor a shipped one (${ENCODING_IDS.join(', ')}).`,
  )
}

/** Reads the file once, and gives the encodings that are asked for by name. */
export async function encodingFinder(
  file: string | undefined,
): Promise<(name: string | undefined) => EncodingRef | undefined> {
  const found = file === undefined ? null : await loadEncodings(file)
  return (name) => (name === undefined ? undefined : encodingNamed(name, file, found))
}
