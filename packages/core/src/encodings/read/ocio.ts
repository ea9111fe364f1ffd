import { isMap, isScalar, isSeq, parseDocument, type Node } from 'yaml'
import { FogBathError } from '../../errors'
import type { Op } from '../ops/op'
import { defineEncoding, MOST_ENCODING_NAME, type EncodingDefinition } from '../own'
import { AP0_TO_BT709, XYZ_TO_BT709_OP } from './builtin'
import { NotUnderstood, backOf, transformOps, type FileOf, type Transform } from './ocio-transforms'

/** Longest config that is read, letters. */
const MOST_CONFIG_LETTERS = 20e6

/** Finds files beside the one that names them, and in folders that it names. */
export type FilesIn = (folders: readonly string[]) => FileOf

/** What a file of encodings says: those that can be taken, and those that cannot with the reason. */
export interface FoundEncodings {
  readonly encodings: readonly EncodingDefinition[]
  readonly left: readonly { readonly name: string; readonly reason: string }[]
}

interface Space extends Transform {
  readonly name?: string
  readonly isdata?: boolean
}
interface Config {
  readonly ocio_profile_version?: unknown
  readonly search_path?: string | readonly string[]
  readonly roles?: Readonly<Record<string, string>>
  readonly colorspaces?: readonly Space[]
  readonly display_colorspaces?: readonly Space[]
}

/** Values with the tags of their maps. */
function plainOf(node: unknown): unknown {
  if (isScalar(node)) return node.value
  if (isSeq(node)) return node.items.map(plainOf)
  if (!isMap(node)) return null
  const fields = node.items.map(({ key, value }) => [String(plainOf(key)), plainOf(value)] as const)
  const { tag } = node as Node & { tag?: string }
  return { ...Object.fromEntries(fields), ...(tag && { tag }) }
}

function parsed(text: string): Config {
  const wrong = (reason: string): FogBathError =>
    new FogBathError('format', 'config', `The OpenColorIO config ${reason}`)
  if (text.length > MOST_CONFIG_LETTERS)
    throw wrong(`is longer than ${MOST_CONFIG_LETTERS / 1e6} million letters, the most that is read.`)
  const document = parseDocument(text, { logLevel: 'silent' })
  const [error] = document.errors
  if (error) throw wrong(`is no whole YAML: ${error.message.split('\n')[0]}`)
  const config = plainOf(document.contents) as Config | null
  if (config?.ocio_profile_version === undefined) throw wrong('names no ocio_profile_version; it is none.')
  const version = Math.floor(Number(config.ocio_profile_version))
  if (version !== 1 && version !== 2)
    throw wrong(`is of version ${JSON.stringify(config.ocio_profile_version)}; 1 and 2 can be read.`)
  return config
}

/** The space's own numbers to its reference light, or back from there. */
function toReference(space: Space, fileOf: FileOf): readonly Op[] {
  const [to, from] = ['to', 'from'].map((way) =>
    ['reference', 'scene_reference', 'display_reference'].map((end) => space[`${way}_${end}`]).find(Boolean),
  ) as [Transform | undefined, Transform | undefined]
  if (to) return transformOps(to, fileOf)
  return from ? backOf(transformOps(from, fileOf), 'way from the reference') : []
}

/** Roles that say what a reference light is, and the way from there to linear BT.709 light. */
const INTERCHANGE: readonly (readonly [role: string, toBt709: Op])[] = [
  ['aces_interchange', AP0_TO_BT709],
  ['cie_xyz_d65_interchange', XYZ_TO_BT709_OP],
]
type Refers = EncodingDefinition['refers']

/** From the reference of some spaces to linear BT.709 light, and what was supposed of it. */
function fromReference(
  { roles = {} }: Config,
  spaces: readonly Space[],
  refers: Refers,
  fileOf: FileOf,
): { readonly ops: readonly Op[]; readonly supposed: string } {
  const supposed = (why: string) => ({
    ops: [],
    supposed: ` Its ${refers} reference is taken for linear BT.709 light: ${why}.`,
  })
  for (const [role, toBt709] of INTERCHANGE) {
    const space = spaces.find((s) => s.name !== undefined && s.name === roles[role])
    if (!space) continue
    try {
      return {
        ops: [...backOf(toReference(space, fileOf), `interchange space '${space.name}'`), toBt709],
        supposed: '',
      }
    } catch (error) {
      if (!(error instanceof NotUnderstood)) throw error
      return supposed(`the role ${role} leads nowhere, ${error.message}`)
    }
  }
  return supposed(`none of its spaces has the role ${INTERCHANGE.map(([role]) => role).join(' or ')}`)
}

/**
 * The colour spaces of an OpenColorIO config, version 1 or 2. What is not understood leaves out the space that needs it, and no other.
 * Throws where the config itself cannot be read.
 * @param filesIn what finds the files that it names, in the folders of its search path
 */
export function readConfig(text: string, filesIn: FilesIn): FoundEncodings {
  const config = parsed(text)
  const { colorspaces, display_colorspaces, search_path = [] } = config
  const fileOf = filesIn([search_path].flat().flatMap((path) => path.split(':')))
  const found = [
    taken(config, colorspaces ?? [], 'scene', fileOf),
    taken(config, display_colorspaces ?? [], 'display', fileOf),
  ]
  return { encodings: found.flatMap((f) => f.encodings), left: found.flatMap((f) => f.left) }
}

function taken(config: Config, spaces: readonly Space[], refers: Refers, fileOf: FileOf): FoundEncodings {
  const encodings: EncodingDefinition[] = []
  const left: { name: string; reason: string }[] = []
  const { ops: end, supposed } = fromReference(config, spaces, refers, fileOf)
  for (const space of spaces) {
    const name = String(space.name ?? '')
    try {
      if (!name) throw new NotUnderstood('it has no name')
      if (space.isdata) throw new NotUnderstood('it holds data and no colours')
      const ops = [...toReference(space, fileOf), ...end]
      const from = `The colour space '${name}' of an OpenColorIO config.${supposed}`
      encodings.push(defineEncoding({ name: name.slice(0, MOST_ENCODING_NAME), refers, from, ops }))
    } catch (error) {
      if (!(error instanceof NotUnderstood || error instanceof FogBathError)) throw error
      left.push({ name, reason: sentence(error.message) })
    }
  }
  return { encodings, left }
}

const sentence = (text: string): string => `${text[0]!.toUpperCase()}${text.slice(1).replace(/\.$/, '')}.`
