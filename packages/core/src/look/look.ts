import { encodingOf, type Encoding, type EncodingRef } from '../encodings'
import type { Triple } from '../colour/matrix'
import { operationsOf } from '../baths/preparing/cdl'
import { recodeStages } from '../cpu/emit'
import { ingestWork } from '../cpu/ingest'
import { FogBathError } from '../errors'
import { cubeOfCurves, cubeOfGrid } from '../formats/cube'
import { compileLine } from '../line/compile'
import type { Recipe } from '../line/recipe'
import { plainStages } from '../stages/plain'
import { evenCurves, cacheKey, type Axis } from '../stages/stage'
import { chainOf, plainChain, type Chain } from './chain'
import { partsToClf } from './clf'
import { cubeGrid } from './cube-grid'
import { decisionBath, decisionFile } from './decision'
import { lookError, tellError, wideColours, type LookError } from './error'
import { notHeld, tellNotHeld, withoutNotHeld, type NotHeld } from './holds'
import { partsOf } from './make'
import { curvesAlone, readParts, type CurvesPart, type Domain, type Part } from './parts'
import { BEHIND_SHAPER, aboutShaper, shaperFor, unshaped } from './shaper'

/** What a look can be written as. */
export const LOOK_FORMATS = {
  clf: 'Common LUT Format: the chain’s own matrices, curves and solids',
  cube: 'One table of colours (.cube), known everywhere',
  cc: 'ASC colour correction, for a line that is one',
  cdl: 'ASC colour decision list, for a line that is one',
} as const
export type LookFormat = keyof typeof LOOK_FORMATS

export interface LookOptions {
  readonly format: LookFormat
  /** Encodings of what the file is given, and of what it gives. BT.1886 where they are left out. */
  readonly takes?: EncodingRef
  readonly gives?: EncodingRef
  /** Of a .cube: nodes a side. */
  readonly size?: number
  /** A .cube of one curve a channel, for a line that mixes no channels. */
  readonly curves?: boolean
  /** Of a .cube that takes display code values: a second .cube of one curve, to be applied first, which spreads their ends. */
  readonly shaper?: boolean
  /** Baths that no such file can hold are left out, instead of being an error. */
  readonly leaveOut?: boolean
  /** Colours of a picture, numbers of `takes`, to measure the file on as well. */
  readonly frame?: readonly Triple[]
}

export interface LookFile {
  readonly text: string
  /** The file to be applied first, if one was asked for. */
  readonly shaper: string | null
  /** On colours all over the encoding, and on the picture; null where nothing is measured. */
  readonly errors: { readonly wide: LookError; readonly frame: LookError | null } | null
  readonly missing: readonly NotHeld[]
}

/** Writes the look of a line as a file. Throws where the format cannot hold it, naming what and why. */
export function makeLook(recipe: Recipe, options: LookOptions): LookFile {
  if (options.shaper && (options.format !== 'cube' || options.curves))
    throw new FogBathError('format', 'shaper', 'A shaper belongs to a .cube table of colours (3D); leave it out.')
  const missing = notHeld(recipe)
  const whole = missing.filter((m) => m.whole)
  if (whole.length > 0 && !options.leaveOut)
    throw new FogBathError(
      'recipe',
      'baths',
      `A .${options.format} knows only colours: ${whole.map(tellNotHeld).join('; ')}. Leave ${whole.length === 1 ? 'it' : 'them'} out, or render the shot.`,
    )
  const held = withoutNotHeld(recipe)
  const takes = encodingOf(options.takes ?? 'bt1886')
  if (options.format === 'cc' || options.format === 'cdl')
    return { ...makeDecision(held, options.format, takes, options), shaper: null, missing }
  const gives = encodingOf(options.gives ?? 'bt1886')
  const made = makeParts(held, takes, gives, options)
  const file = readParts(made.parts)
  const { frame } = options
  const errors = {
    wide: lookError(file, made.line, gives, wideColours(takes)),
    frame: frame && frame.length > 0 ? lookError(file, made.line, gives, frame) : null,
  }
  const about = [
    `Fog Bath, recipe ${recipe.id}: the look alone, without what a shot adds before and behind it`,
    `Takes ${takes.label}; gives ${gives.label}.`,
    `Measured against the process, CIEDE2000, on wide colours: ${tellError(errors.wide)}.`,
    ...(errors.frame ? [`On a frame: ${tellError(errors.frame)}.`] : []),
    ...missing.map((m) => `Not in this file: ${tellNotHeld(m)}.`),
  ]
  const shaper = made.shaper ? cubeOfCurves(made.shaper, `${recipe.name}, shaper`, aboutShaper(recipe.id, takes)) : null
  return { text: made.write(about, recipe, takes, gives), shaper, errors, missing }
}

/**
 * A file of one decision holds its numbers alone, none of what surrounds them here: programs let them act on the numbers they
 * have. How far that is from the bath is measured where those are a display's.
 */
function makeDecision(
  recipe: Recipe,
  format: 'cc' | 'cdl',
  takes: Encoding,
  { frame }: LookOptions,
): Pick<LookFile, 'text' | 'errors'> {
  const bath = decisionBath(recipe, format)
  if (takes.refers !== 'display') return { text: decisionFile(bath, recipe.id, format), errors: null }
  const plan = compileLine(recipe, { refers: 'display', shown: recodeStages(takes), colours: true })
  const line = plainChain([...chainFrom(takes).chain, ...chainOf(plan)])
  const file = plainStages(operationsOf(bath.settings))
  const off = (colours: readonly Triple[]): LookError => lookError(file, line, takes, colours)
  const errors = { wide: off(wideColours(takes)), frame: frame && frame.length > 0 ? off(frame) : null }
  const measured = `On ${takes.label} it is off from the bath by, CIEDE2000 on wide colours: ${tellError(errors.wide)}.`
  return { text: decisionFile(bath, recipe.id, format, measured), errors }
}

interface Made {
  readonly parts: readonly Part[]
  /** What has a file of its own, to be applied first. */
  readonly shaper?: CurvesPart | undefined
  readonly line: ReturnType<typeof plainChain>
  readonly write: (about: readonly string[], recipe: Recipe, takes: Encoding, gives: Encoding) => string
}

/** Of a .cube whose nodes lie beyond black and white, see formats/cube-fit.ts. */
const BEYOND =
  'Numbers below 0 and above 1 are meant so: between nodes they lead to black and white, where screens cut off.'

function makeParts(recipe: Recipe, takes: Encoding, gives: Encoding, options: LookOptions): Made {
  const plan = compileLine(recipe, { refers: takes.refers, shown: recodeStages(gives), colours: true })
  const { chain, domain } = chainFrom(takes)
  const links = chainOf(plan)
  const line = plainChain([...chain, ...links])
  if (options.format === 'clf') {
    const parts = partsOf([...chain, ...links], domain)
    const write: Made['write'] = (about, { id, name }) =>
      partsToClf(parts, { id, name, about, takes: takes.label, gives: gives.label })
    return { parts, line, write }
  }
  if (domain === 'half')
    throw new FogBathError(
      'format',
      'takes',
      `A .cube takes numbers from 0 to 1, and '${takes.label}' has none above white; take 'acescct', or write a .clf.`,
    )
  if (options.curves) {
    const parts = [curvesAlone(line)]
    return { parts, line, write: (about, { name }) => cubeOfCurves(parts[0]!, name, about) }
  }
  const shaper = options.shaper ? shaperFor(takes) : undefined
  const grid = cubeGrid(plan, takes, gives, options.size ?? 33, shaper ? unshaped : (place) => place)
  const beyond = grid.values.some((v) => v < 0 || v > 1) ? [BEYOND] : []
  // A table that is nothing by itself says so where programs show its name.
  const write: Made['write'] = (about, { name }) =>
    cubeOfGrid(grid, shaper ? `${name}, behind its shaper` : name, [
      ...about,
      ...(shaper ? [BEHIND_SHAPER] : []),
      ...beyond,
    ])
  return { parts: [...(shaper ? [shaper] : []), { part: 'grid', grid }], shaper, line, write }
}

/** Code values of log encodings reach below 0 and above 1. */
const LOG = { from: -0.4, to: 1.5, steps: 8192 }
const CODES = { from: 0, to: 1, steps: 8192 }

/** From the numbers of an encoding to what a line takes, and over which numbers that is. */
function chainFrom(takes: Encoding): { chain: Chain; domain: Domain } {
  const work = ingestWork(takes)
  const stages = work.stages.map((stage) => ({ link: 'stage', stage }) as const)
  if (takes.numbers === 'light') return { chain: stages, domain: 'half' }
  const domain = takes.refers === 'display' ? CODES : LOG
  const axis: Axis = { nodes: 'even', ...domain }
  const first = evenCurves({ key: cacheKey('taken', takes.id), axis, f: work.first })
  return { chain: [{ link: 'stage', stage: first }, ...stages], domain }
}
