// npm run docs: writes docs/processes.md from the kinds' own schemas, with a demo picture of each process.
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { KINDS, SHIPPED_RECIPES, Workbench, compileLine, encodingById, makeIngest, runPlan } from '@fogbath/core'

const [W, H] = [480, 270]

/** What each process is, how it is modelled, and where the numbers come from. */
const TEXTS: Record<string, { recipe: string; about: string; model: string }> = {
  'colour-print': {
    recipe: 'bleach-bypass',
    about:
      'A colour negative, developed, bleached and fixed, printed on colour print stock. Where the bleach is cut short, metallic silver stays over the dyes.',
    model:
      'Three records from layer sensitivities; Hurter-Driffield curves; an inter-image matrix whose rows sum to 1; kept silver as neutral density (0.75 of the mean layer density in a negative, 0.6 in an intermediate, 0.45 in a print, from memory); printer lights of 0.025 log exposure a point (common practice); dye amounts by equivalent neutral density (after Evans, Hanson and Brewer, 1953, from memory). Push by 12 % of slope a stop (from memory).',
  },
  'two-strip': {
    recipe: 'two-strip',
    about:
      'Two black-and-white records behind a red and a green glass, printed in blue-green and orange-red dye, or thrown together in two lights.',
    model:
      'Records from spectra and pass bands; print densities of each record become dye amounts; the pair is balanced by a search for the least chroma at mid grey. Projection adds two lights whose sum is white. Blue recovery adds a yellow image from a blue record. Bands from memory.',
  },
  'three-strip': {
    recipe: 'three-strip',
    about: 'Three separations make matrices that carry dye to one blank, over a weak silver key image.',
    model:
      'Separation records from spectra, an inter-image matrix, a print curve for each matrix, imbibition dyes by equivalent neutral density, key silver from the green record. Registration and bleed act on the dye densities, between two LUTs.',
  },
  'black-and-white': {
    recipe: 'split-tone',
    about:
      'One record in silver; toning baths turn silver into coloured compounds one after the other; a dyed base colours the lights.',
    model:
      'Sensitivity and glass by spectrum; print curve by grade; toning conserves silver: each bath converts a share of what is left, sulphide the light areas first, selenium the dense ones (common practice); compounds and tints as spectral densities (from memory).',
  },
  instant: {
    recipe: 'instant',
    about: 'A print that develops in the hand.',
    model:
      'Positive layer curves, records that see each other, dye factors by temperature and time (from memory), spread of dye as a blur in density, falloff in exposure, uneven paste as a seeded field, surface flare.',
  },
  'false-colour': {
    recipe: 'violet-stock',
    about: 'Stock whose records drive the wrong dyes.',
    model:
      'A matrix over the three records before the ordinary chain; the violet one is common practice. Infrared is estimated from the colours, because footage holds none.',
  },
  'aged-print': {
    recipe: 'faded-warm',
    about: 'A colour print after years.',
    model:
      'The dye amounts of a plain print are scaled; years act at Arrhenius rates (from memory), cyan fastest in the dark, magenta in light; stain and fog are densities over all.',
  },
}

function picture(recipeId: string, name: string): void {
  const filter = `zscale=w=${W}:h=${H}:matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le`
  const raw = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-ss',
      '0.8',
      '-i',
      'demo/footage/regatta-bunting.mp4',
      '-frames:v',
      '1',
      '-vf',
      filter,
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb48le',
      '-',
    ],
    { maxBuffer: 1e8 },
  )
  const camera = new Float32Array(4 * W * H)
  makeIngest(encodingById('bt1886'), 'u16')(new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2), camera, W * H)
  const recipe = SHIPPED_RECIPES.find((r) => r.id === recipeId)!
  const out = runPlan(compileLine(recipe, { size: 33 }), camera, W, H, new Workbench())
  const bytes = Buffer.alloc(3 * W * H)
  for (let i = 0; i < W * H; i++)
    for (let k = 0; k < 3; k++) bytes[3 * i + k] = Math.round(255 * Math.min(1, Math.max(0, out[4 * i + k]!)))
  execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pixel_format',
      'rgb24',
      '-video_size',
      `${W}x${H}`,
      '-i',
      '-',
      `docs/processes/${name}.png`,
    ],
    { input: bytes },
  )
}

interface Field {
  readonly title: string
  readonly description: string
  readonly unit?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly default: unknown
  readonly enum?: readonly string[]
}

const range = (f: Field): string =>
  f.enum
    ? f.enum.join(', ')
    : f.minimum === undefined
      ? 'on, off'
      : `${f.minimum} to ${f.maximum}${f.unit ? ` ${f.unit}` : ''}`

const pages = KINDS.map((kind) => {
  const { recipe, about, model } = TEXTS[kind.id]!
  picture(recipe, kind.id)
  const fields = Object.entries(kind.schema.properties as Record<string, Field>)
  const recipes = SHIPPED_RECIPES.filter((r) => r.baths.some((b) => b.kind === kind.id))
  return [
    `## ${kind.label}\n`,
    `![${kind.label}](processes/${kind.id}.png)\n`,
    `${about}\n`,
    `**Model and sources.** ${model}\n`,
    `**Shipped recipes.** ${recipes.map((r) => `\`${r.id}\``).join(', ')}. The picture shows \`${recipe}\`.\n`,
    '| setting | range | default | what it does |\n|---|---|---|---|',
    ...fields.map(([name, f]) => `| \`${name}\` | ${range(f)} | ${String(f.default)} | ${f.title}: ${f.description} |`),
    '',
  ].join('\n')
})
writeFileSync(
  'docs/processes.md',
  [
    '<!-- Written by scripts/processes.ts (npm run docs). -->',
    '# The processes\n',
    'Every kind works from scene light to display light, in spectra and densities. Values marked ‘from memory’ are typical textbook values recalled, not read.\n',
    ...pages,
  ].join('\n'),
)
