import { three } from '../../colour/matrix'
import { throughEmulsion, type Emulsion } from '../../film/emulsion'
import { stroke, solid } from '../emblem'
import { grainViews, halationView } from '../emulsion-views'
import { plainStages } from '../../stages/plain'
import type { Grain } from '../../stages/grain'
import type { Field } from '../../stages/space'
import type { Stage } from '../../stages/stage'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { cardField, falloffField, spreadField } from './fields'
import { makeInstant } from './film'
import { InstantSettings } from './settings'

/** Width of the print, µm (from memory). */
const PRINT_WIDTH = 79_000

const grainIn = (s: InstantSettings): Grain => ({
  rms: s.grain,
  gauge: PRINT_WIDTH,
  clump: s.roughness,
  colour: s.grainColour / 100,
  seed: s.seed,
  clear: [0, 0, 0],
  silver: [0, 0, 0],
})

/** What light does in the film; the spread of dyes is a step of its own, see `softness`. */
const lightIn = (s: InstantSettings): Emulsion => ({
  gauge: PRINT_WIDTH,
  halation: s.halation / 100,
  base: 1000 * s.baseThickness,
  exposureTime: s.exposureTime,
  spreadNegative: 0,
  spreadPrint: 0,
  adjacency: 0,
  grainNegative: null,
  grainPrint: null,
})

function stages(s: InstantSettings): readonly Stage[] {
  const film = makeInstant(s)
  const field = (f: Field, smooth = true): Stage => ({ at: 'space', space: { kind: 'field', field: f, smooth } })
  const list = throughEmulsion(lightIn(s), { exposed: film.exposed, negative: film.logged, print: [], shown: [] })
  if (s.falloff > 0) list.push(field(falloffField(s.falloff)))
  list.push(...film.develop)
  if (s.grain > 0) list.push({ at: 'space', space: { kind: 'grain', grain: grainIn(s) } })
  if (s.softness > 0) list.push({ at: 'space', space: { kind: 'blur', sigmas: [s.softness, s.softness, s.softness] } })
  if (s.uneven > 0) list.push(field(spreadField(s.uneven, s.seed)))
  list.push(...film.view)
  if (s.card) list.push(field(cardField, false))
  return list
}

function views(s: InstantSettings): View[] {
  const film = makeInstant(s)
  const develop = plainStages(film.develop)
  const out = three()
  const layer = (k: number) => (x: number) => {
    const exposure = film.printerLight + x
    develop(exposure, exposure, exposure, out)
    return out[k]!
  }
  return [
    {
      view: 'curves',
      title: 'Layers of the instant print',
      xTitle: 'log exposure of the scene, 0 = mid grey',
      yTitle: 'density',
      lines: (['cyan', 'magenta', 'yellow'] as const).map((style, k) => ({
        label: style,
        style,
        points: sampleLine(layer(k), -2, 1.5),
      })),
      handles: [{ label: 'contrast', x: -0.6, y: layer(1)(-0.6), onY: { setting: 'contrast', perUnit: 70 } }],
    },
    {
      view: 'mixes',
      title: 'What the layers see',
      rows: (['red', 'green', 'blue'] as const).map((label, k) => ({ label, mix: film.records[k]! })),
    },
    ...(s.grain > 0 ? grainViews(grainIn(s)) : []),
    ...(s.halation > 0 ? [halationView(s)] : []),
  ]
}

/**
 * Instant film, seen on paper: short scale, weak black under the surface's mirror light, a warm white, layers that see
 * each other's light (colours greyed), dyes that spread on their way, and a development that follows the weather.
 */
export const instant = defineKind({
  id: 'instant',
  label: 'Instant film',
  short: 'Instant',
  family: { name: 'Instant', emblem: [stroke('M3 2h10v12H3z'), solid('M4.6 3.6h6.8v6.4H4.6z')] },
  notes: {
    recipe: 'instant',
    about: 'A print that develops in the hand.',
    model:
      'Positive layer curves, records that see each other, dye factors by temperature and time (from memory), spread of dye as a blur in density, falloff in exposure, uneven paste as a seeded field, surface flare. Halation and tired layers in long exposures as in other stocks.',
  },
  stretch: 'process',
  summary: 'A print that develops in the hand: soft, low in black, warm in white, at the mercy of the weather.',
  schema: InstantSettings,
  takes: 'camera',
  stages,
  idle: () => null,
  views,
})
