import { nodeCount } from '../numbers/octaves'
import type { RunStep, Slot } from '../plan/plan'
import {
  HUE_AXIS,
  tableOfHues,
  tableOfRamp,
  tableOfShade,
  tableOfSolid,
  tableOfTone,
  type SolidTable,
} from '../cpu/tables'
import { gainOfHolding } from '../stages/plain'
import type { Axis, Hues, PointStage, Tone } from '../stages/stage'
import { COLUMNS, blendName, libraryFor } from './library'

/** A table for a shader: four floats a texel. */
interface ShaderTable {
  readonly key: string
  readonly texels: () => Float32Array
  /** First row that it takes in the texture of tables, and how many. */
  readonly row: number
  readonly rows: number
}

/** A run over single pixels as a fragment shader, and what it is given. */
export interface RunShader {
  /** Runs of the same kind of steps have the same source, whatever their settings. */
  readonly source: string
  /** `uniform vec4 given[]`. */
  readonly given: Float32Array
  readonly tables: readonly ShaderTable[]
  /** Samplers `solid0`.. of 3-D textures. */
  readonly solids: readonly SolidTable[]
  /** Samplers `picture0`.. */
  readonly reads: readonly Slot[]
  /** Samplers `mask0`..: ids of the baths. */
  readonly masks: readonly string[]
  /** What the outputs of the shader are. */
  readonly writes: readonly Slot[]
}

export { COLUMNS as TABLE_COLUMNS }

/** Translates the steps of a run. */
export function shaderOf(steps: readonly RunStep[]): RunShader {
  const writer = new ShaderWriter()
  for (const step of steps) writer.add(step)
  return writer.end()
}

class ShaderWriter {
  private readonly lines: string[] = []
  private readonly given: number[] = []
  private readonly tables: ShaderTable[] = []
  private rows = 0
  private readonly solids: SolidTable[] = []
  private readonly reads: Slot[] = []
  private readonly masks: string[] = []
  private readonly writes: Slot[] = []
  private readonly modes = new Set<string>()

  add(step: RunStep): void {
    switch (step.do) {
      case 'load': {
        // What the run itself has put down is still in its output.
        const put = this.writes.indexOf(step.slot)
        this.lines.push(`${step.register} = ${put >= 0 ? `out${put}.rgb` : this.picture(step.slot)};`)
        break
      }
      case 'store':
        this.lines.push(`out${placed(this.writes, step.slot)} = vec4(${step.register}, 1.0);`)
        break
      case 'keep':
        this.lines.push('line = own;')
        break
      case 'take':
        this.lines.push('own = line;')
        break
      case 'lay':
        this.lay(step)
        break
      case 'stage':
        this.stage(step.stage)
    }
  }

  private lay({ how: { lay, under, strength }, mask }: Extract<RunStep, { do: 'lay' }>): void {
    const through = mask === null ? '' : ` * texelFetch(mask${placed(this.masks, mask)}, at, 0).r`
    const [backdrop, source] = under ? ['own', 'line'] : ['line', 'own']
    const share = `(${this.give(strength / 100)}.x${through})`
    if (lay !== 'normal') this.modes.add(lay)
    const laid = lay === 'normal' ? source : `${blendName(lay)}(${backdrop}, ${source})`
    // A sum takes so much of the bath's picture, where other modes mix what they made with the line's.
    const line =
      lay === 'plus-lighter'
        ? `line = ${blendName(lay)}(line, own * ${share});`
        : `line += (${laid} - line) * ${share};`
    this.lines.push(line, 'own = line;')
  }

  private stage(stage: PointStage): void {
    switch (stage.at) {
      case 'mix': {
        const rows = stage.matrix.map((row, k) => this.give(...row, stage.offset[k]!))
        const mixed = `vec3(${rows.map((r) => `dot(${r}.xyz, own) + ${r}.w`).join(', ')})`
        if (stage.held === undefined) this.lines.push(`own = ${mixed};`)
        else this.lines.push(`own = softly(${mixed}, own, ${this.give(stage.held, 1 / gainOfHolding(stage.held))});`)
        break
      }
      case 'curves':
        stage.tones.forEach((tone, k) => {
          if (!tone) return
          const own = `own.${'rgb'[k]}`
          this.lines.push(`${own} = ${this.tone(tone, own)};`)
        })
        break
      case 'ramp': {
        const { axis } = stage.ramp
        const table = tableOfRamp(stage.ramp)
        const a = this.table(table.key, table.nodes, nodesOf(axis) + 1, axis)
        this.lines.push(`own = colourAt(${a}, ${placeName(axis)}(${a}, own.r), 1, 0);`)
        break
      }
      case 'solid': {
        const table = tableOfSolid(stage.solid)
        this.solids.push(table)
        const [start, per] = [this.give(...stage.solid.from), this.give(...table.scale)]
        const read = `solidAt(solid${this.solids.length - 1}, ${start}.xyz, ${per}.xyz, own)`
        this.lines.push(`own = ${'holds' in stage.solid && stage.solid.holds === 'codes' ? read : `opened(${read})`};`)
        break
      }
      case 'shade': {
        const { axis } = stage.shade
        const table = tableOfShade(stage.shade)
        this.lines.push(`own = shaded(${this.table(table.key, table.nodes, 2 * (nodesOf(axis) + 1), axis)}, own);`)
        break
      }
      case 'hues':
        this.hues(stage.hues)
        break
      case 'chroma':
        this.lines.push(`own = chromaTimes(${this.tone(stage.gain, 'length(chromaOf(own))')}, own);`)
        break
      case 'fit':
        this.lines.push('own = fitted(own);')
        break
      case 'select': {
        const far = stage.picks.map((p) => `distance(own, ${this.give(...p)}.xyz)`)
        const nearest = far.reduce((a, b) => `min(${a}, ${b})`)
        this.lines.push(`own.r = selected(${nearest}, ${this.give(stage.range, 1 / stage.soft)});`)
      }
    }
  }

  private hues(hues: Hues): void {
    const table = tableOfHues(hues)
    const a = this.table(table.key, table.nodes, nodesOf(HUE_AXIS) + 1, HUE_AXIS)
    const gain = hues.gain ? this.tone(hues.gain, 'length(chromaOf(own))') : '1.0'
    this.lines.push(`own = hued(${a}, ${gain}, ${this.give(1 / hues.full)}.x, own);`)
  }

  /** What a tone makes of a number. */
  private tone(tone: Tone, of: string): string {
    const table = tableOfTone(tone)
    const a = this.table(table.key, () => pairsOf(table.nodes()), nodesOf(tone.axis), tone.axis)
    return `toneAt(${a}, ${placeName(tone.axis)}(${a}, ${of}))`
  }

  /** Numbers for the shader; their name in it. */
  private give(...numbers: readonly number[]): string {
    this.given.push(...[0, 1, 2, 3].map((k) => numbers[k] ?? 0))
    return `given[${this.given.length / 4 - 1}]`
  }

  private picture(slot: Slot): string {
    return `texelFetch(picture${placed(this.reads, slot)}, at, 0).rgb`
  }

  private table(key: string, texels: () => Float32Array, count: number, axis: Axis): string {
    const rows = Math.ceil(count / COLUMNS)
    this.tables.push({ key, texels, row: this.rows, rows })
    const base = this.rows * COLUMNS
    this.rows += rows
    const { from, to } = axis
    if (axis.nodes === 'octaves') return this.give(base, 2 ** from, nodeCount(from, to) - 1)
    return this.give(base, from, axis.steps / (to - from), axis.steps)
  }

  end(): RunShader {
    const { given, tables, solids, reads, masks, writes } = this
    const named = (type: string, name: string, of: readonly unknown[]) =>
      of.map((_, i) => `uniform ${type} ${name}${i};`)
    const source = [
      '#version 300 es',
      'precision highp float;',
      'precision highp int;',
      'precision highp sampler2D;',
      'precision highp sampler3D;',
      `uniform vec4 given[${Math.max(1, given.length / 4)}];`,
      'uniform sampler2D tables;',
      ...named('sampler2D', 'picture', reads),
      ...named('sampler3D', 'solid', solids),
      ...named('sampler2D', 'mask', masks),
      ...writes.map((_, i) => `layout(location = ${i}) out vec4 out${i};`),
      libraryFor([...this.modes].sort()),
      'void main() {',
      'ivec2 at = ivec2(gl_FragCoord.xy);',
      'vec3 own = vec3(0.0), line = vec3(0.0);',
      ...this.lines,
      '}',
    ].join('\n')
    return { source, given: Float32Array.from(given), tables, solids, reads, masks, writes }
  }
}

/** Place of a thing in a list, where it is put if it is not there yet. */
function placed<T>(list: T[], thing: T): number {
  if (!list.includes(thing)) list.push(thing)
  return list.indexOf(thing)
}

const placeName = ({ nodes }: Axis): string => (nodes === 'octaves' ? 'octaves' : 'evenly')

const nodesOf = (axis: Axis): number => (axis.nodes === 'octaves' ? nodeCount(axis.from, axis.to) : axis.steps + 1)

/** Each node beside the next, so that one reading brings both. */
function pairsOf(nodes: Float32Array): Float32Array {
  const texels = new Float32Array(4 * (nodes.length - 1))
  for (let i = 0; i < nodes.length - 1; i++) {
    texels[4 * i] = nodes[i]!
    texels[4 * i + 1] = nodes[i + 1]!
  }
  return texels
}
