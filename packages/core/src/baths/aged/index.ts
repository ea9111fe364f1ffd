import Type, { type Static } from 'typebox'
import type { Triple } from '../../colour/matrix'
import { COLOUR_PRINT } from '../../film/curve'
import { throughEmulsion } from '../../film/emulsion'
import { GENERATIONS, dyesLeft, stainAfter, type Keeping } from '../../film/fading'
import { EARLY_DYES, PRINT_DYES, SILVER, STAIN } from '../../spectra/dyes'
import { nmAt } from '../../spectra/grid'
import { makeColourPrint } from '../colour-print/film'
import { ColourPrintSettings } from '../colour-print/settings'
import { defaultsOf } from '../defaults'
import { emulsionFields, emulsionOf } from '../emulsion'
import { emulsionViews } from '../emulsion-views'
import { choice, number, percent } from '../fields'
import { ring, stroke } from '../emblem'
import { defineKind } from '../kind'
import type { View } from '../views'

const fade = (dye: string, fallback: number) =>
  percent(fallback, {
    title: `Fade, ${dye}`,
    description: `Share of the ${dye} dye that is gone, besides what the years took.`,
    group: 'Dyes',
    first: true,
  })

const AgedSettings = Type.Object(
  {
    generation: choice(GENERATIONS, ['Early: cyan fades soon', 'Later: cyan keeps longer'], 'early', {
      title: 'Generation of stock',
      description:
        'Early stocks were less dense, their dyes less pure, and in the dark their cyan faded nearly three times as fast.',
      group: 'Dyes',
      first: true,
    }),
    fadeCyan: fade('cyan', 35),
    fadeMagenta: fade('magenta', 6),
    fadeYellow: fade('yellow', 14),
    stain: number(0, 0.6, 0.08, {
      title: 'Stain',
      description: 'Yellowing of the whole print, density at 420 nm.',
      group: 'Base',
      step: 0.01,
      first: true,
    }),
    fog: number(0, 0.5, 0.03, {
      title: 'Fog',
      description: 'Even grey density of the base.',
      group: 'Base',
      step: 0.01,
    }),
    years: number(0, 120, 0, {
      title: 'Years',
      description: 'Time in store; fades the dyes and stains the base at the rates of the temperature.',
      group: 'Years',
      unit: 'yr',
      step: 1,
      first: true,
    }),
    temperature: number(-10, 45, 24, {
      title: 'Store temperature',
      description: 'Dark fading about doubles every six degrees (Arrhenius).',
      group: 'Years',
      unit: '°C',
      step: 1,
    }),
    humidity: percent(40, {
      title: 'Humidity of the store',
      description: 'Relative humidity; at 65 % prints fade and stain twice as fast as at 40 %.',
      group: 'Years',
    }),
    light: percent(0, {
      title: 'Light',
      description: 'How much of the time in light: takes magenta first, dark storage cyan.',
      group: 'Years',
    }),
    ...emulsionFields(),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof AgedSettings>

const keepingOf = (s: Settings): Keeping => ({
  years: s.years,
  celsius: s.temperature,
  humidity: s.humidity,
  light: s.light / 100,
})

function leftOf(s: Settings): Triple {
  const [c, m, y] = dyesLeft(keepingOf(s), s.generation)
  return [c * (1 - s.fadeCyan / 100), m * (1 - s.fadeMagenta / 100), y * (1 - s.fadeYellow / 100)]
}

/** Early print stock reached a density of 3.15 (from memory): where its shoulder begins, log exposure. */
const EARLY_END = COLOUR_PRINT.start + (3.15 - COLOUR_PRINT.dmin) / COLOUR_PRINT.gamma

function makeAged(s: Settings) {
  const later = defaultsOf(ColourPrintSettings) as ColourPrintSettings
  const early = s.generation === 'early'
  const settings = early ? { ...later, printEnd: EARLY_END } : later
  // The print was timed when it was new.
  const { printerLight } = makeColourPrint(settings, { early })
  const stain = s.stain + stainAfter(keepingOf(s))
  const base = STAIN.map((v, i) => v * stain + SILVER[i]! * s.fog)
  return makeColourPrint(settings, { early, left: leftOf(s), base, timedLight: printerLight })
}

function spectra(s: Settings): View {
  const left = leftOf(s)
  const dyes = s.generation === 'early' ? EARLY_DYES : PRINT_DYES
  const line = (k: 0 | 1 | 2, style: 'cyan' | 'magenta' | 'yellow') => ({
    label: `${style} ${(100 * left[k]).toFixed(0)} %`,
    style,
    points: Array.from(dyes[k], (v, i) => [nmAt(i), v * left[k]] as const),
  })
  return {
    view: 'curves',
    title: 'Dyes that are left',
    xTitle: 'wavelength, nm',
    yTitle: 'density per unit',
    lines: [
      line(0, 'cyan'),
      line(1, 'magenta'),
      line(2, 'yellow'),
      { label: 'new', style: 'faint', points: Array.from(dyes[0], (v, i) => [nmAt(i), v] as const) },
    ],
  }
}

/**
 * An aged print: a duplicate of the line's picture whose dyes have faded. Losing cyan leaves red light through (a red
 * cast), losing magenta green, losing yellow blue; stain and fog only darken.
 */
export const aged = defineKind({
  id: 'aged-print',
  label: 'Aged print',
  short: 'Aged print',
  family: { name: 'Age', emblem: [ring(8, 8, 5.6), stroke('M8 4.6V8l2.4 1.8')] },
  notes: {
    recipe: 'faded-warm',
    about: 'A colour print after years.',
    model:
      'The dye amounts of a plain print are scaled; years act at Arrhenius rates (from memory), cyan fastest in the dark, magenta in light, all the faster the damper; early stock has a greatest density of 3.15; stain and fog are densities over all.',
  },
  stretch: 'process',
  summary: 'What years do to a colour print: dyes fade unequally, the base yellows and fogs.',
  schema: AgedSettings,
  takes: 'line',
  stages: (s) => throughEmulsion(emulsionOf(s, { clearPrint: COLOUR_PRINT.dmin }), makeAged(s).parts),
  idle: () => null,
  views: (s) => [spectra(s), ...emulsionViews(s)],
})
