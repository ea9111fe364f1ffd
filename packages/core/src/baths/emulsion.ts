import { triple } from '../colour/matrix'
import { spreadOfResolution, type Emulsion } from '../film/emulsion'
import { SILVER_SHARES } from '../film/silver'
import type { Grain } from '../stages/grain'
import { choice, number, percent } from './fields'

/** Widths of the picture on the film, mm (from memory). */
const GAUGES = { small: 4.5, narrow: 10.3, wide: 22, large: 52 } as const
const GAUGE_NAMES = ['small', 'narrow', 'wide', 'large'] as const
type Gauge = (typeof GAUGE_NAMES)[number]

const GRAIN = 'Grain'
const LIGHT = 'Light in the film'

export const gaugeField = (group: string, first = false) =>
  choice(GAUGE_NAMES, ['8 mm', '16 mm', '35 mm', '65 mm'], 'wide', {
    title: 'Gauge',
    description: 'Width of the film: the narrower, the more its grain, its halation and its softness are enlarged.',
    group,
    first,
  })

export const roughnessField = (group: string, fallback = 4) =>
  number(1, 14, fallback, {
    title: 'Roughness',
    description: 'Radius of the clumps of grain on the film. Coarse clumps look soft and large.',
    group,
    unit: 'µm',
    step: 0.5,
  })

export const grainColourField = (group: string, fallback = 30) =>
  percent(fallback, {
    title: 'Colour of the grain',
    description: '0: all layers share one neutral grain. 100: each has its own.',
    group,
  })

/** Granularity as data sheets state it. */
export const granularity = (title: string, description: string, group: string, fallback = 0, most = 60) =>
  number(0, most, fallback, { title, description, group, step: 0.5 })

const WHERE = 'A thousand times the deviation of density in an aperture of 48 µm, at a density of 1'

/** Settings of the emulsions of negative and print; nothing of it is at work by default. */
export const emulsionFields = () => ({
  grain: granularity('Grain, negative', `${WHERE}. Fine stock 4, fast stock 10; pushing makes it coarser.`, GRAIN),
  grainPrint: granularity('Grain, print', `${WHERE}. Print stock is fine: 2 to 5.`, GRAIN, 0, 40),
  gauge: gaugeField(GRAIN),
  roughness: roughnessField(GRAIN),
  grainColour: grainColourField(GRAIN),
  halation: percent(
    0,
    {
      title: 'Halation',
      description:
        'Light that the base sends back as a red ring around what is bright. 0: a backing that swallows all; 100: none.',
      group: LIGHT,
    },
    400,
  ),
  baseThickness: number(0.05, 0.3, 0.13, {
    title: 'Thickness of the base',
    description: 'The thicker, the wider the ring.',
    group: LIGHT,
    unit: 'mm',
    step: 0.01,
  }),
  resolvesNegative: number(0, 120, 0, {
    title: 'Sharpness, negative',
    description: 'Cycles a millimetre at which half of the contrast is left; 0 for a film that resolves all.',
    group: LIGHT,
    unit: '/mm',
    step: 1,
  }),
  resolvesPrint: number(0, 120, 0, {
    title: 'Sharpness, print',
    description: 'The same for the print, and for every duplicate on the way to it.',
    group: LIGHT,
    unit: '/mm',
    step: 1,
  }),
  generations: choice(['1', '2', '3', '4'], ['Print', 'Copy of a print', 'Third', 'Fourth'], '1', {
    title: 'Generations',
    description: 'How often it was printed; each copy is as soft again as the print.',
    group: LIGHT,
  }),
  adjacency: percent(0, {
    title: 'Adjacency',
    description: 'Edges that development itself sharpens: 10 is usual, more for still developer.',
    group: LIGHT,
  }),
  exposureTime: number(1, 1000, 1, {
    title: 'Exposure time',
    description: 'Long exposures tire the layers unequally: night turns, metered as it is, darker and warmer.',
    group: LIGHT,
    unit: 's',
    step: 1,
  }),
})

export interface EmulsionSettings {
  readonly grain: number
  readonly grainPrint: number
  readonly gauge: Gauge
  readonly roughness: number
  readonly grainColour: number
  readonly halation: number
  readonly baseThickness: number
  readonly resolvesNegative: number
  readonly resolvesPrint: number
  readonly generations: '1' | '2' | '3' | '4'
  readonly adjacency: number
  readonly exposureTime: number
}

/** What else decides about the grain. */
interface Coarser {
  /** Stops; G grows by 15 % each (from memory). */
  readonly push?: number
  /** Metallic silver for 1 of image density, in negative and print. */
  readonly silverNegative?: number
  readonly silverPrint?: number
  /** Density of clear print film. */
  readonly clearPrint?: number
}

export const gaugeWidth = (gauge: Gauge): number => 1000 * GAUGES[gauge]

export function emulsionOf(s: EmulsionSettings, more: Coarser = {}): Emulsion {
  const { push = 0, silverNegative = 0, silverPrint = 0, clearPrint = 0 } = more
  const grain = (rms: number, clear: number, silver: number, seed: number): Grain | null =>
    rms === 0
      ? null
      : {
          rms,
          gauge: gaugeWidth(s.gauge),
          clump: s.roughness,
          colour: s.grainColour / 100,
          seed,
          clear: [clear, clear, clear],
          silver: triple(SILVER_SHARES.map((share) => share * silver)),
        }
  return {
    gauge: gaugeWidth(s.gauge),
    halation: s.halation / 100,
    base: 1000 * s.baseThickness,
    spreadNegative: spreadOfResolution(s.resolvesNegative),
    spreadPrint: spreadOfResolution(s.resolvesPrint) * Math.sqrt(Number(s.generations)),
    adjacency: s.adjacency / 100,
    exposureTime: s.exposureTime,
    grainNegative: grain(s.grain * 1.15 ** push, 0, silverNegative, NEGATIVE_SEED),
    grainPrint: grain(s.grainPrint, clearPrint, silverPrint, PRINT_SEED),
  }
}

/** Negative and print have nothing in common. */
const NEGATIVE_SEED = 11
const PRINT_SEED = 12
