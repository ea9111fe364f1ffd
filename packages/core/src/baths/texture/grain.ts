import Type, { type Static } from 'typebox'
import { BT1886_GAMMA } from '../../colour/transfer'
import type { Grain } from '../../stages/grain'
import { evenCurves, type Axis, type Stage, type Tone } from '../../stages/stage'
import { disc, stroke } from '../emblem'
import { gaugeField, gaugeWidth, grainColourField, granularity, roughnessField } from '../emulsion'
import { grainViews } from '../emulsion-views'
import { number } from '../fields'
import { codeTone } from '../grading/codes'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const group = 'Grain'
const GrainSettings = Type.Object(
  {
    grain: {
      ...granularity(
        'Grain',
        'A thousand times the deviation of density in an aperture of 48 µm, at a density of 1. Fine stock 4, fast stock 10.',
        group,
        8,
      ),
      first: true,
    },
    gauge: gaugeField(group, true),
    roughness: { ...roughnessField(group), first: true },
    grainColour: { ...grainColourField(group), first: true },
    seed: number(0, 9999, 1, {
      title: 'Seed',
      description: 'Another number, another grain; the same number is the same grain everywhere.',
      group,
      step: 1,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof GrainSettings>

const grainOf = (s: Settings): Grain => ({
  rms: s.grain * DISPLAYED,
  gauge: gaugeWidth(s.gauge),
  clump: s.roughness,
  colour: s.grainColour / 100,
  clear: [0, 0, 0],
  silver: [0, 0, 0],
  seed: Math.round(s.seed),
})

/** A print steepens its negative's grain by its slope over mid grey. */
const DISPLAYED = 1.6

/** Density of a code value: light is its power of the display’s gamma. Beyond a density of 3 it goes on in a straight line, so that black has one. */
const SLOPE = BT1886_GAMMA / Math.LN10
const LAST = 10 ** (-3 / BT1886_GAMMA)
const densityOf = (code: number): number =>
  code > LAST ? -BT1886_GAMMA * Math.log10(code) : 3 + (SLOPE / LAST) * (LAST - code)
const codeOf = (density: number): number =>
  density < 3 ? 10 ** (-density / BT1886_GAMMA) : LAST - ((density - 3) * LAST) / SLOPE

const DENSITY: Axis = { nodes: 'even', from: -0.5, to: 13, steps: 16384 }
const TO_DENSITY = codeTone('density of a code', densityOf)
const TO_CODE: Tone = { key: 'code of a density', axis: DENSITY, f: codeOf }

const stages = (s: Settings): Stage[] =>
  s.grain === 0
    ? []
    : [evenCurves(TO_DENSITY), { at: 'space', space: { kind: 'grain', grain: grainOf(s) } }, evenCurves(TO_CODE)]

/** Grain for pictures that have no film. */
export const grain = defineKind({
  id: 'grain',
  label: 'Grain',
  short: 'Grain',
  family: {
    name: TEXTURE,
    emblem: [
      stroke('M2 2.5h12v11H2z'),
      ...[disc(5, 5.6, 1), disc(9.4, 5.2, 0.7), disc(11.4, 8.6, 1), disc(6.4, 9.6, 0.8), disc(9.2, 11.2, 0.6)],
    ],
  },
  stretch: 'finish',
  summary: 'Grain of a stock and a gauge, made in density, another in every frame.',
  notes: {
    recipe: 'soft-portrait',
    about: 'Noise in the densities of the shown picture: none in clear white, strongest in the mid tones.',
    model:
      'Code values to densities (BT.1886), the grain of stages/grain.ts on them with a granularity of 1.6 times the setting, because a print steepens its negative’s (from memory), and back.',
  },
  schema: GrainSettings,
  takes: 'line',
  stages,
  idle: (s: Settings) => (s.grain === 0 ? 'its grain is 0' : null),
  views: (s) => (s.grain === 0 ? [] : grainViews(grainOf(s))),
})
