import { LAY_MODES } from '../lay/blend'
import { gainOfHolding } from '../stages/plain'
import type { PointStage } from '../stages/stage'
import { roomOfGrain, wordsOfGrain } from './grain'
import { PROGRAM, real, runJob, type Real } from './jobs'
import { kernelMemory } from './memory'
import { STEP } from './numbers'
import type { Step } from './step'
import { tableOfHues, tableOfRamp, tableOfShade, tableOfSolid, tableOfTone, wordsOfNodes, type Words } from './tables'

/** @param room where a step that needs room of its own has it, from the beginning of the registers */
function wordsOfStep(step: Step, room: number): [number, Words] {
  switch (step.do) {
    case 'load':
    case 'store':
      return [STEP[step.do], [step.address, step.register === 'line' ? 1 : 0]]
    case 'storePlane':
      return [STEP[step.do], [step.address]]
    case 'storeShrunk':
    case 'loadStretched': {
      const { address, width, height, factor, w, h } = step.small
      return [STEP[step.do], [address, width, height, factor, w, h]]
    }
    case 'field': {
      const { address, columns, rows } = step.grid
      return [STEP.field, [address, step.width, step.height, columns, rows]]
    }
    case 'grain':
      return [STEP.grain, wordsOfGrain(step.grain, room)]
    case 'table': {
      const { address, side } = step.nodes
      return [STEP.table, wordsOfNodes(address, side, [0, 0, 0], [side - 1, side - 1, side - 1])]
    }
    case 'keep':
    case 'take':
      return [STEP[step.do], []]
    case 'lay': {
      const { lay, under, strength } = step.how
      return [STEP.lay, [LAY_MODES.indexOf(lay), under ? 1 : 0, real(strength / 100), step.mask]]
    }
    case 'stage':
      return wordsOfStage(step.stage)
  }
}

function wordsOfStage(stage: PointStage): [number, Words] {
  switch (stage.at) {
    case 'mix': {
      const rows = stage.matrix.flatMap((row, k) => [...row, stage.offset[k]!].map(real))
      if (stage.held === undefined) return [STEP.mix, rows]
      return [STEP.held, [...rows, real(stage.held), real(1 / gainOfHolding(stage.held))]]
    }
    case 'curves':
      return [STEP.curves, stage.tones.flatMap((tone) => (tone ? tableOfTone(tone).words() : [0, 0, 0, 0, 0]))]
    case 'solid':
      return [
        'holds' in stage.solid && stage.solid.holds === 'codes' ? STEP.table : STEP.solid,
        tableOfSolid(stage.solid).words(),
      ]
    case 'ramp':
      return [STEP.ramp, tableOfRamp(stage.ramp).words()]
    case 'shade':
      return [STEP.shade, tableOfShade(stage.shade).words()]
    case 'hues': {
      const gain = stage.hues.gain ? tableOfTone(stage.hues.gain).words() : [0, 0, 0, 0, 0]
      return [STEP.hues, [...tableOfHues(stage.hues).words(), ...gain, real(1 / stage.hues.full)]]
    }
    case 'chroma':
      return [STEP.chroma, tableOfTone(stage.gain).words()]
    case 'fit':
      return [STEP.fit, []]
    case 'select': {
      const { picks, range, soft } = stage
      return [STEP.select, [real(range), real(1 / soft), picks.length, ...picks.flat().map(real)]]
    }
  }
}

/** Pixels that a thread takes at a time; a multiple of a chunk, see wasm/registers.ts. */
const TILE = 8192
/** Room for two registers, and what steps work with. */
const REGISTERS = 4 * 3072

/** Rows of a tile with grain: the more, the fewer rows of noise are worked out twice. */
const GRAIN_ROWS = 60

/** Pixels of a tile: whole rows of squares where they are shrunk, whole rows where they get grain, and a multiple of four. */
function tileOf(steps: readonly Step[]): number {
  let [rows, least] = [4, 0]
  for (const step of steps) {
    if (step.do === 'storeShrunk') [rows, least] = [2 * step.small.factor * step.small.width, Math.max(least, TILE)]
    if (step.do === 'grain') [rows, least] = [Math.max(rows, 4 * step.grain.width), GRAIN_ROWS * step.grain.width]
  }
  return least === 0 ? TILE : rows * Math.ceil(least / rows)
}

/** The room that each step needs besides the registers. */
const roomOf = (step: Step): number => (step.do === 'grain' ? 16 * Math.ceil(roomOfGrain(step.grain) / 16) : 0)

/** Does one step on a picture of n pixels, in place. */
export function runAlone(step: Step, address: number, n: number): void {
  const own = { register: 'own', address } as const
  runSteps([{ do: 'load', ...own }, step, { do: 'store', ...own }], n)
}

/** Runs steps over the first n pixels. */
export function runSteps(steps: readonly Step[], n: number): void {
  const words: (number | Real)[] = []
  let scratch = REGISTERS
  for (const step of steps) {
    const [number, given] = wordsOfStep(step, scratch)
    scratch += roomOf(step)
    words.push(number, 4 * (2 + given.length), ...given)
  }
  words.push(0)
  if (4 * words.length > PROGRAM.bytes) throw new Error(`The line is too long: ${steps.length} steps in one run.`)
  const memory = kernelMemory()
  const whole = memory.ints(PROGRAM.at, words.length)
  const reals = memory.floats(PROGRAM.at, words.length)
  words.forEach((word, i) => {
    if (typeof word === 'number') whole[i] = word
    else reals[i] = word.real
  })
  runJob({ kind: 'run', units: n, per: tileOf(steps), words: [PROGRAM.at], scratch })
}
