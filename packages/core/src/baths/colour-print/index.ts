import { three } from '../../colour/matrix'
import { COLOUR_PRINT, densityAt, type Curve } from '../../film/curve'
import { throughEmulsion } from '../../film/emulsion'
import { SILVER_IN_NEGATIVE, SILVER_IN_PRINT, keptSilver } from '../../film/silver'
import { PRINT_DYES, SILVER } from '../../spectra/dyes'
import { nmAt } from '../../spectra/grid'
import { plainStages } from '../../stages/plain'
import { disc } from '../emblem'
import { emulsionOf } from '../emulsion'
import { emulsionViews } from '../emulsion-views'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { makeColourPrint } from './film'
import { ColourPrintSettings } from './settings'

/**
 * Colour negative and print. Keeping silver (bleach below 100 %) lays a neutral image over the dyes: contrast rises,
 * colour thins out, blacks deepen; timing brings mid grey back.
 */
export const colourPrint = defineKind({
  id: 'colour-print',
  label: 'Colour print',
  short: 'Colour print',
  family: {
    name: 'Silver and dye',
    emblem: [
      disc(4, 5, 1.4),
      disc(8.5, 3.6, 1),
      disc(11.6, 7, 1.7),
      disc(6.6, 9.4, 1.2),
      disc(10, 12.2, 1),
      disc(4, 12.6, 0.8),
    ],
  },
  notes: {
    recipe: 'bleach-bypass',
    about:
      'A colour negative, developed, bleached and fixed, printed on colour print stock. Where the bleach is cut short, metallic silver stays over the dyes.',
    model:
      'Three records from layer sensitivities; Hurter-Driffield curves; an inter-image matrix whose rows sum to 1; kept silver as neutral density (0.5 of the layers’ density in a negative, 0.3 in an interpositive, 0.36 in a print, that of the yellow layer counting most, times the Callier factor in projection, from memory); printer lights of 0.025 log exposure a point (common practice); dye amounts by equivalent neutral density (after Evans, Hanson and Brewer, 1953, from memory). Push by 12 % of slope a stop (from memory).',
  },
  stretch: 'process',
  summary: 'Colour negative and print, with silver kept in either.',
  schema: ColourPrintSettings,
  takes: 'camera',
  stages: (s) => throughEmulsion(emulsionIn(s), makeColourPrint(s).parts),
  idle: () => null,
  views: (s) => [curves(s), dyes(), ...emulsionViews(s)],
})

/** Kept silver brings its own grain. */
const emulsionIn = (s: ColourPrintSettings) =>
  emulsionOf(s, {
    push: s.push,
    silverNegative: keptSilver(s.bleachNegative, SILVER_IN_NEGATIVE, 1),
    silverPrint: s.callier * keptSilver(s.bleachPrint, SILVER_IN_PRINT, 1),
    clearPrint: COLOUR_PRINT.dmin,
  })

function curves(s: ColourPrintSettings): View {
  const film = makeColourPrint(s)
  const negativeDensities = plainStages(film.negativeStages)
  const out = three()
  const printer = (x: number): number => {
    const light = 0.18 * 10 ** x
    negativeDensities(light, light, light, out)
    return out[1]
  }
  const print = (x: number) => densityAt(film.print, film.printerLight - printer(x))
  const withSilver = (x: number) => print(x) + film.printSilver(print(x) - film.print.dmin)
  const negative: Curve = film.negative[1]
  return {
    view: 'curves',
    title: 'Characteristic curves',
    xTitle: 'log exposure of the scene, 0 = mid grey',
    yTitle: 'density',
    lines: [
      { label: 'negative', points: sampleLine(printer, -3, 3), style: 'plain' },
      { label: 'print', points: sampleLine(print, -3, 3), style: 'dashed' },
      { label: 'print with silver', points: sampleLine(withSilver, -3, 3), style: 'accent' },
    ],
    handles: handles(s, negative, printer, print),
  }
}

/** Toe and shoulder of the negative and the print's slope as draggable points. */
function handles(
  s: ColourPrintSettings,
  negative: Curve,
  printer: (x: number) => number,
  print: (x: number) => number,
) {
  const steep = -0.35
  return [
    {
      label: 'toe of the negative',
      x: negative.start,
      y: printer(negative.start),
      onX: { setting: 'negativeStart', perUnit: 1 },
    },
    {
      label: 'shoulder of the negative',
      x: negative.end,
      y: printer(negative.end),
      onX: { setting: 'negativeEnd', perUnit: 1 },
      onY: { setting: 'negativeGamma', perUnit: 1 / Math.max(0.5, s.negativeEnd - s.negativeStart) },
    },
    {
      label: 'slope of the print',
      x: steep,
      y: print(steep),
      onY: { setting: 'printGamma', perUnit: 1.6 },
    },
    { label: 'black of the print', x: -2.6, y: print(-2.6), onY: { setting: 'printEnd', perUnit: 1 / s.printGamma } },
  ]
}

function dyes(): View {
  const line = (label: string, spectrum: Float64Array, style: 'cyan' | 'magenta' | 'yellow' | 'faint') => ({
    label,
    points: Array.from(spectrum, (v, i) => [nmAt(i), v] as const),
    style,
  })
  return {
    view: 'curves',
    title: 'Print dyes and silver',
    xTitle: 'wavelength, nm',
    yTitle: 'density per unit',
    lines: [
      line('cyan', PRINT_DYES[0], 'cyan'),
      line('magenta', PRINT_DYES[1], 'magenta'),
      line('yellow', PRINT_DYES[2], 'yellow'),
      line('silver', SILVER, 'faint'),
    ],
  }
}
