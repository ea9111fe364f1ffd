import { kindById } from '../baths/kinds'
import { newBath } from './complete'
import { GRADED_RECIPES } from './graded'
import { TEXTURED_RECIPES } from './textured'
import { RECIPE_VERSION, type Bath, type Recipe } from './recipe'

const one = (kind: string, settings: Record<string, unknown> = {}): Bath => newBath(kind, 'bath-1', settings)

/** Its tag is the family of its first bath. */
const recipe = (id: string, name: string, summary: string, first: Bath, ...others: Bath[]): Recipe => ({
  version: RECIPE_VERSION,
  id,
  name,
  summary,
  tags: [kindById(first.kind).family.name],
  strength: 100,
  baths: [first, ...others],
})

/** Recipes of the chemistry alone. */
export const PROCESS_RECIPES: readonly Recipe[] = [
  recipe(
    'plain',
    'Plain print',
    'The colour negative printed as the lab would print it every day.',
    one('colour-print'),
  ),
  recipe(
    'bleach-bypass',
    'Bleach bypass',
    'All silver kept in the print and some in the negative: hard, deep and pale in colour.',
    one('colour-print', { bleachPrint: 0, bleachNegative: 70, interImage: 70, grain: 4, grainColour: 20 }),
  ),
  recipe(
    'bleach-bypass-half',
    'Bleach bypass, half',
    'Half of the print’s silver kept: firmer and quieter, still in colour.',
    one('colour-print', { bleachPrint: 50 }),
  ),
  recipe(
    'bleach-bypass-intermediate',
    'Bleach bypass, intermediate',
    'Silver kept in the duplicate negative: hard lights, colour thinned.',
    one('colour-print', { intermediate: true, bleachIntermediate: 20 }),
  ),
  recipe(
    'silver-negative',
    'Silver in the negative',
    'The negative’s bleach cut short: steep contrast, bright lights, restrained colour.',
    one('colour-print', { bleachNegative: 30 }),
  ),
  recipe(
    'flashed',
    'Flashed',
    'An even glow of light on negative and print before development: open shadows, quiet lights.',
    one('colour-print', { flashNegative: 3, flashPrint: 14 }),
  ),
  recipe(
    'pushed-two',
    'Pushed two stops',
    'Developed two stops longer: hard, with layers that have drifted apart.',
    one('colour-print', { push: 2, grain: 6 }),
  ),
  recipe(
    'day-for-night',
    'Day for night',
    'Printed down and cold, the lights pulled down more than the shadows.',
    one('colour-print', {
      ...{ negativeEnd: 0.5, flashPrint: 26, bleachPrint: 40 },
      ...{ lightRed: 35, lightGreen: 31, lightBlue: 26 },
    }),
  ),
  recipe(
    'two-strip',
    'Two-strip',
    'Two records in blue-green and orange-red dye: skin and water, no blue and no yellow.',
    one('two-strip'),
  ),
  recipe(
    'two-strip-projected',
    'Two-strip, projected',
    'Two pictures thrown one over the other in red and green light.',
    one('two-strip', { assembly: 'projected' }),
  ),
  recipe(
    'three-strip',
    'Three-strip',
    'Separations in pure dyes: saturated, firm and clean.',
    one('three-strip', { key: 8 }),
  ),
  recipe(
    'three-strip-misregistered',
    'Three-strip, out of register',
    'The records have slipped: coloured fringes at every edge.',
    one('three-strip', {
      acrossRed: 1.4,
      downRed: -0.5,
      acrossBlue: -1.1,
      downBlue: 0.7,
      turnBlue: 0.06,
      bleedCyan: 0.5,
      bleedYellow: 0.8,
    }),
  ),
  recipe(
    'sepia',
    'Sepia',
    'All silver turned to sulphide: warm brown, clean white, deep black.',
    one('black-and-white', { toner1: 'sulphide' }),
  ),
  recipe(
    'sepia-partial',
    'Sepia, partial',
    'The bleach cut short: brown lights over neutral shadows.',
    one('black-and-white', { toner1: 'sulphide', far1: 35 }),
  ),
  recipe(
    'selenium',
    'Selenium',
    'The dense tones turned plum-black, the lights left as silver.',
    one('black-and-white', { toner1: 'selenium', far1: 70, grade: 2.5 }),
  ),
  recipe(
    'iron-blue',
    'Iron blue',
    'Silver turned to the blue of iron: moonlight and water.',
    one('black-and-white', { toner1: 'iron-blue', far1: 60 }),
  ),
  recipe(
    'split-tone',
    'Split tone',
    'Sulphide takes the lights, iron blue the silver it left: warm over cold.',
    one('black-and-white', { toner1: 'sulphide', far1: 40, toner2: 'iron-blue', far2: 92 }),
  ),
  recipe(
    'duotone',
    'Duotone',
    'Copper in the lights over half the silver: two tones, close together.',
    one('black-and-white', { toner1: 'copper', far1: 55, toner2: 'selenium', far2: 60 }),
  ),
  recipe(
    'tritone',
    'Tritone',
    'Brown lights, blue half-tones, silver blacks: three tones from two short baths.',
    one('black-and-white', { toner1: 'sulphide', far1: 25, toner2: 'iron-blue', far2: 45 }),
  ),
  recipe(
    'quadtone',
    'Quadtone',
    'Sulphide, copper and gold in turn over the silver they leave: four browns from light to dark.',
    one('black-and-white', { toner1: 'sulphide', far1: 25, toner2: 'copper', far2: 40, toner3: 'gold', far3: 50 }),
  ),
  recipe(
    'tint-amber',
    'Amber tint',
    'Black and white on an amber base: lamplight.',
    one('black-and-white', { tint: 'amber' }),
  ),
  recipe(
    'tint-blue',
    'Blue tint',
    'Black and white on a blue base: night.',
    one('black-and-white', { tint: 'blue', grade: 2.4 }),
  ),
  recipe(
    'orthochromatic',
    'Orthochromatic',
    'Film that is blind to red: dark lips, pale skies.',
    one('black-and-white', { sensitivity: 'orthochromatic' }),
  ),
  recipe(
    'litho-warm',
    'Litho, warm',
    'Hard lith development: black ink shadows, warm and grainy lights.',
    one('black-and-white', {
      litho: 75,
      toner1: 'copper',
      far1: 45,
      tint: 'amber',
      tintDensity: 0.12,
      grain: 7,
      roughness: 6,
    }),
  ),
  recipe('instant', 'Instant', 'A print from the pack on a mild day.', one('instant')),
  recipe(
    'instant-cold',
    'Instant, cold',
    'Developed in winter: thin, blue, uneven.',
    one('instant', { temperature: 8, uneven: 14, falloff: 30 }),
  ),
  recipe('violet-stock', 'Violet stock', 'Green goes to purple, yellow to pink, blue to green.', one('false-colour')),
  recipe('infrared', 'Infrared stock', 'Leaves glow red, skies go deep.', one('false-colour', { stock: 'infrared' })),
  recipe('faded', 'Faded', 'A print that lay in the dark too long: the cyan has gone.', {
    ...one('aged-print', { fadeCyan: 75, fadeMagenta: 16, fadeYellow: 41, stain: 0.07, fog: 0.02 }),
    takes: 'camera',
  }),
  recipe('faded-warm', 'Faded and stained', 'Half a century in a warm attic: pale, red and yellowed.', {
    ...one('aged-print', {
      ...{ fadeCyan: 0, fadeMagenta: 22, fadeYellow: 30 },
      ...{ stain: 0.1, years: 46, temperature: 25 },
    }),
    takes: 'camera',
  }),
]

/** Recipes that come with the program. */
export const SHIPPED_RECIPES: readonly Recipe[] = [...PROCESS_RECIPES, ...GRADED_RECIPES, ...TEXTURED_RECIPES]
