// The page of the shipped recipes: each on every demo clip, what a practitioner should see, and figures.
import { mkdirSync, writeFileSync } from 'node:fs'
import { PATCHES } from '@fogbath/core/charts'
import { bt709ToLab, chroma, displayCode, displayLight, hue, type Triple, three } from '@fogbath/core/colour'
import { straightView } from '@fogbath/core/film'
import { NOTHING_AROUND, plainLine, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Sheet, demoFrame } from './lib/pictures'

const [W, H] = [240, 135]
const CLIPS = [
  { file: 'keeper-and-apprentice.mp4', frame: 20, from: 'bt1886' },
  { file: 'regatta-bunting.mp4', frame: 24, from: 'bt1886' },
  { file: 'dawn-fog.mp4', frame: 20, from: 'bt1886' },
  { file: 'lock-gate-acescct.mp4', frame: 24, from: 'acescct' },
  { file: 'night-lantern-acescct.mp4', frame: 20, from: 'acescct' },
] as const

/** What to look for. */
const SEEN: Record<string, string> = {
  plain: 'The footage, as a lab would print it; only colours beyond the dyes come back paler.',
  'bleach-bypass':
    'Hard and grey at once: shadows close early, lights glare, skin turns to stone, reds keep a rest of colour.',
  'bleach-bypass-half': 'Firmer than plain and quieter in colour, with room left in the shadows.',
  'bleach-bypass-intermediate':
    'Firmer at both ends, colours a little thinner; lights hold longer than with silver in the negative.',
  'silver-negative': 'The steepest of the silver recipes in the lights, which open wide; grain shows.',
  flashed: 'Shadows lifted into a thin grey, lights veiled, colours calm.',
  'pushed-two': 'Hard, colours loud; shadows lean warm and lights cool, mid grey neutral.',
  'day-for-night': 'Two stops down and blue, no light brighter than a bright moon would make it.',
  'two-strip': 'Skin and brick in orange-red, water and leaves in green-grey; no yellow, no blue, greys a little warm.',
  'two-strip-projected': 'The same two records in light instead of dye: cleaner greys, paler water.',
  'three-strip': 'Every colour purer and deeper than in the footage; greys stay grey.',
  'three-strip-misregistered': 'The same with coloured fringes at hard edges and soft colour.',
  sepia: 'Brown, neither yellow nor red, with a clean white and a deep black.',
  'sepia-yellow': 'A sandy brown, lighter in spirit than sepia, with a clean white.',
  'sepia-purple': 'A brown that leans to plum: cocoa in the middle, near black below.',
  'sepia-partial': 'Brown lights and middle tones over neutral shadows.',
  selenium: 'Black and white at first sight; shadows cool towards plum, and deep.',
  'iron-blue': 'Clear blue in the middle tones, nearly black in the shadows, white lights.',
  'split-tone': 'Warm lights over cold shadows, meeting in a grey.',
  duotone: 'Copper throughout, quieter in the lights.',
  tritone: 'Three tones, told apart only on a long grey scale: straw, blue-grey, black.',
  quadtone: 'Reddish brown, redder where gold has turned the sulphide.',
  'tint-amber': 'Black and white whose lights are the colour of lamplight.',
  'tint-blue': 'Black and white whose lights are moonlight.',
  orthochromatic: 'Red things dark, skin darker and blotchier, skies pale.',
  'litho-warm': 'Soft, warm lights that fall at once into black.',
  instant: 'Low blacks lifted, lights creamy, colours mixed into each other.',
  'instant-cold': 'Thin and blue, with clouds and streaks where the paste lay unevenly.',
  'violet-stock': 'Meadows violet, yellow pink, blue green; skin nearly itself.',
  infrared: 'Leaves glow pink to red, reds go yellow, skies deepen; greys stay.',
  faded: 'The cyan gone: magenta-red shadows and a pale, pink picture.',
  'bypass-overlay-mono': 'As hard as silver in the print, but cleaner in the blacks; skin sculpted, colour halved.',
  'bypass-soft-light': 'Firmer and paler than plain, nothing lost at either end.',
  'bypass-added': 'Dense and quiet, red as dark as it is bright: grey lies over every colour.',
  'bypass-colour-held': 'Steep light, calm colour; no hue turns.',
  'crushed-print': 'Shadows fall into black, lights stay; colours heavier, a little thinned.',
  'tinted-darks': 'Teal in the shadows; faces and whites as printed.',
  'cold-shadows': 'A touch dark, shadows blue and pale, lights neutral.',
  'cool-and-gritty': 'Cold, hard, thin in colour; skin lean.',
  'faded-into-warm': 'Blacks opened, whites drawn back to cream, everything mild.',
  'veil-violet': 'Violet in all that is dark, thinning towards the lights.',
  'sepia-by-mixer': 'Browner in its middle than at either end, black and white clean.',
  'split-warm-cool': 'Amber lights over blue shadows, skin where it was.',
  'red-poster': 'Red alone in a black-and-white picture, deep and full.',
  'blue-turned': 'Clear blues gone to a painted green, skies with them; skin, meadow and navy untouched.',
  'two-tone-by-hand': 'Straw lights, blue-green shadows, grey between.',
  'night-by-hand': 'Down and cold, lights held back, colour left only in what is bright.',
  'dream-glow': 'Milky lights that bleed into what lies beside them, blacks a little open, corners darker.',
  'small-gauge-home':
    'Large soft grain with a little colour, a red fringe around windows and lamps, round dark corners; in motion the picture never quite stands.',
  'pushed-grain': 'Steep and dense; fine detail drowns in an even, nearly neutral grain, strongest in the mid tones.',
  'silver-grit': 'Black shadows, bare lights with a cold glow, broad edges cut hard, grain like gravel over all greys.',
  'warm-seventies': 'Amber lights over brown, lifted darks; a red halo around lamps, corners soft, grain just seen.',
  'square-instant': 'A dim square on its card, soft to the corners; night stays a slate grey, no black anywhere.',
  'sepia-glow': 'Brown print whose whites spill over; the darks keep their outline.',
  'soft-portrait': 'Skin without pores, eyes and hair still drawn; a faint bloom, green hills calm behind.',
  'silent-era':
    'Lips and brick dark, sky light, all on straw-coloured film; scratches, specks, a wide pale halo around lamps.',
  newsreel: 'Hard greys with light rims along edges, thin scratches, a copy of a copy.',
  'faded-warm': 'Red-brown shadows, lifted further, and a yellowed base.',
}

const out = three()
const grey = (light: number): Triple => [displayCode(light), displayCode(light), displayCode(light)]

/** Lightness, chroma and hue of colours of display footage, and the mean chroma over the chart against plain's. */
function figuresOf(recipe: Recipe): string[] {
  const lab = (of: Recipe, codes: Triple): Triple => {
    plainLine(of, NOTHING_AROUND, 'display')(codes[0], codes[1], codes[2], out)
    return bt709ToLab([displayLight(out[0]!), displayLight(out[1]!), displayLight(out[2]!)])
  }
  const told = (codes: Triple): string => {
    const seen = lab(recipe, codes)
    const c = chroma(seen)
    return `${seen[0].toFixed(0)} / ${c.toFixed(0)}${c >= 1 ? ` / ${hue(seen).toFixed(0)}` : ''}`
  }
  const codesOf = (light: Triple) => light.map((v) => displayCode(straightView(v))) as unknown as Triple
  const mean = (of: Recipe): number => PATCHES.reduce((sum, p) => sum + chroma(lab(of, codesOf(p.light))), 0)
  const skin = PATCHES.find((p) => p.name === 'fair skin')!.light
  const share = mean(recipe) / mean(SHIPPED_RECIPES[0]!)
  return [told(grey(0.18)), told(grey(0)), told(grey(1)), told(codesOf(skin)), share.toFixed(2)]
}

export function writeRecipes(): void {
  mkdirSync('docs/recipes', { recursive: true })
  const frames = CLIPS.map((clip) => ({ ...clip, codes: demoFrame(clip.file, clip.frame, W, H) }))
  const lines = SHIPPED_RECIPES.flatMap((recipe) => {
    const sheet = new Sheet(CLIPS.length * W, 2 * H)
    frames.forEach(({ codes, from }, i) => {
      sheet.put({ ...recipe, baths: [] }, codes, [W, H], from, i * W, 0)
      sheet.put(recipe, codes, [W, H], from, i * W, H)
    })
    sheet.write(`docs/recipes/${recipe.id}.jpg`)
    const seen = SEEN[recipe.id]
    if (!seen) throw new Error(`scripts/recipes.ts does not say what is to be seen of '${recipe.id}'.`)
    const [mid, black, white, skin, colour] = figuresOf(recipe)
    return [
      `## ${recipe.name}\n`,
      `${seen}\n`,
      `![${recipe.name}: five demo clips untreated, below them treated](recipes/${recipe.id}.jpg)\n`,
      `Mid grey ${mid} · black ${black} · white ${white} · fair skin ${skin} · colour ${colour}\n`,
    ]
  })
  const head = [
    '<!-- Written by scripts/recipes.ts (npm run docs). -->\n',
    '# Recipes\n',
    'Each shipped recipe on the five demo clips: above the footage, below what it becomes. Figures are lightness, chroma and hue in CIELAB (hue where there is chroma) of display footage; colour is the mean chroma over the 24 patches of the chart against the plain print.\n',
  ]
  writeFileSync('docs/recipes.md', [...head, ...lines].join('\n'))
}
