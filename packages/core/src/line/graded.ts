import { newBath } from './complete'
import { RECIPE_VERSION, type Bath, type Recipe } from './recipe'

/** A bath as a recipe names it: kind, settings, and how it is laid. */
type Named = readonly [kind: string, settings?: Record<string, unknown>, how?: Partial<Bath>]

const graded = (id: string, name: string, summary: string, tag: string, ...baths: readonly Named[]): Recipe => ({
  version: RECIPE_VERSION,
  ...{ id, name, summary, tags: [tag], strength: 100 },
  baths: baths.map(([kind, settings, how], i) => ({ ...newBath(kind, `bath-${i + 1}`, settings), ...how })),
})

const PRINT: Named = ['colour-print']

/** Recipes in which grading stands around the chemistry, or does what chemistry did. They hold no grey: they are looks. */
export const GRADED_RECIPES: readonly Recipe[] = [
  graded(
    'bypass-overlay-mono',
    'Bypass by overlay',
    'A black-and-white copy over the print: hard, dense, half its colour.',
    'Bleach bypass by hand',
    PRINT,
    ['overlay', { contrast: -10 }, { lay: 'overlay', strength: 45 }],
    ['saturation', { overall: 68 }],
  ),
  graded(
    'bypass-soft-light',
    'Bypass in soft light',
    'The same copy laid softly: firmer tones, quiet colour, clean ends.',
    'Bleach bypass by hand',
    PRINT,
    ['overlay', { contrast: 20 }, { lay: 'soft-light', strength: 85 }],
    ['saturation', { overall: 72 }],
  ),
  graded(
    'bypass-added',
    'Bypass, silver added',
    'A black-and-white print of the same scene over the colour print, as silver lies over dyes.',
    'Bleach bypass by hand',
    PRINT,
    ['black-and-white', { grade: 2 }, { lay: 'multiply', strength: 60, takes: 'camera' }],
    ['ranges', { midsLevel: 55, lightsLevel: 30, highs: 10 }],
  ),
  graded(
    'bypass-colour-held',
    'Bypass, colour held',
    'Contrast of light alone over a thinned print: hard tones whose colour does not grow with them.',
    'Bleach bypass by hand',
    PRINT,
    ['contrast', { amount: 60, works: 'light', toe: 55, shoulder: 75 }],
    ['saturation', { overall: 74, darks: 70 }],
  ),
  graded(
    'crushed-print',
    'Crushed print',
    'Blacks closed early, lights held: a print with weight.',
    'Contrast',
    ['colour-print', { bleachPrint: 75 }],
    ['contrast', { amount: 38, pivot: 24, toe: 30, shoulder: 85 }],
    ['saturation', { overall: 82 }],
  ),
  graded(
    'tinted-darks',
    'Tinted darks',
    'Green-blue in the shadows alone; skin and lights as printed.',
    'Split',
    PRINT,
    ['split-by-hand', { darksHue: 188, darksAmount: 38, lightsAmount: 0, mids: 30 }],
  ),
  graded(
    'cold-shadows',
    'Cold shadows',
    'Timed a little dark, blue in what is dark, paler colour there.',
    'Split',
    ['printer-lights', { master: 2 }],
    PRINT,
    ['ranges', { darksHue: 222, darksAmount: 45, midsHue: 215, midsAmount: 10, lows: 4 }],
    ['saturation', { darks: 70 }],
  ),
  graded(
    'cool-and-gritty',
    'Cool and gritty',
    'Cold light, some silver kept, hard in light and thin in colour.',
    'Contrast',
    ['cdl', { slopeRed: 0.985, slopeBlue: 1.015, powerGreen: 1.01, saturation: 0.9 }],
    ['colour-print', { bleachPrint: 45 }],
    ['contrast', { amount: 30, works: 'light', toe: 40 }],
    ['saturation', { overall: 70, knee: 60 }],
  ),
  graded(
    'faded-into-warm',
    'Faded into warm',
    'A thin print under warm paper: black opened, white drawn back, everything a little amber.',
    'Veil',
    PRINT,
    [
      'curves',
      {
        master: [
          [0, 0.07],
          [0.3, 0.33],
          [0.7, 0.71],
          [1, 0.95],
        ],
      },
    ],
    ['saturation', { overall: 80 }],
    ['veil', { colour: '#d9a066' }, { lay: 'soft-light', strength: 45 }],
  ),
  graded(
    'veil-violet',
    'Violet veil',
    'A violet light in the shadows that thins out towards the lights.',
    'Veil',
    PRINT,
    ['veil', { colour: '#46356a' }, { lay: 'screen', strength: 36 }],
    ['contrast', { amount: 22, works: 'light' }],
  ),
  graded(
    'sepia-by-mixer',
    'Sepia by mixer',
    'One grey from three channels, browned in its middle tones; black and white stay clean.',
    'Toned by hand',
    PRINT,
    ['mixer', { output: 'mono', monoRed: 45, monoGreen: 50, monoBlue: 5 }],
    ['ranges', { allHue: 33, allAmount: 34, darksHue: 22, darksAmount: 8 }],
  ),
  graded(
    'split-warm-cool',
    'Warm over cool',
    'Curves of single channels: amber lights, blue shadows, skin held where it is.',
    'Split',
    PRINT,
    [
      'curves',
      {
        red: [
          [0, 0],
          [0.25, 0.19],
          [0.8, 0.85],
          [1, 1],
        ],
        blue: [
          [0, 0],
          [0.25, 0.31],
          [0.8, 0.72],
          [1, 1],
        ],
        ...{ hold: true, holdAt: 55, holdWidth: 14 },
      },
    ],
  ),
  graded(
    'red-poster',
    'Red poster',
    'Red alone keeps its colour and gains in density; all else is black and white.',
    'Hue',
    PRINT,
    [
      'hue-response',
      {
        chromas: [
          [0, 0.3],
          [0.06, 0],
          [0.12, -1],
          [0.4, -1],
          [0.7, -1],
          [0.92, -1],
          [0.97, 0],
        ],
        densities: [
          [0, 0.35],
          [0.1, 0],
          [0.5, 0],
          [0.9, 0],
        ],
      },
    ],
    ['contrast', { amount: 35 }],
  ),
  graded(
    'blue-turned',
    'Blue turned',
    'Clear blue becomes the green of old paint; navy, skin and earth stay.',
    'Hue',
    PRINT,
    ['picked-colour', { picked: '#3f6fb4', reach: 95, to: '#5a7f78', amount: 90 }],
  ),
  graded(
    'two-tone-by-hand',
    'Two tones by hand',
    'Black and white with straw in the lights and blue-green in the shadows.',
    'Toned by hand',
    PRINT,
    ['mixer', { output: 'mono', monoRed: 35, monoGreen: 55, monoBlue: 10 }],
    ['split-by-hand', { lightsHue: 46, lightsAmount: 55, darksHue: 200, darksAmount: 60, mids: 8 }],
  ),
  graded(
    'night-by-hand',
    'Night by hand',
    'A day scene two stops down in cold light, lights held back, colour drained from the darks.',
    'Night',
    ['balance', { exposure: -1.5, kelvin: 4300, rollOff: 60, knee: 0.5 }],
    PRINT,
    ['ranges', { darksHue: 226, darksAmount: 30, midsHue: 218, midsAmount: 26, lightsLevel: -25, highs: -12 }],
    ['saturation', { overall: 62, darks: 55 }],
  ),
]
