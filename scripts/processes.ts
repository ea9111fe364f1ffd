// npm run docs: writes docs/processes.md and a page for each process from the kinds' own schemas, with a demo picture of each process.
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { KINDS, SHIPPED_RECIPES, Workbench, compileLine, encodingById, makeIngest, runPlan } from '@fogbath/core'

const [W, H] = [400, 225]

/** What each process is, how it is modelled, and where the numbers come from. */
const TEXTS: Record<
  string,
  { recipe: string; file: string; frame: number; encoding: string; about: string; model: string }
> = {
  'colour-print': {
    recipe: 'bleach-bypass',
    file: 'keeper-and-apprentice.mp4',
    frame: 20,
    encoding: 'bt1886',
    about:
      'A colour negative, developed, bleached and fixed, printed on colour print stock. Where the bleach is cut short, metallic silver stays over the dyes.',
    model:
      'Three records from layer sensitivities; Hurter-Driffield curves; an inter-image matrix whose rows sum to 1; kept silver as neutral density (0.75 of the mean layer density in a negative, 0.6 in an intermediate, 0.45 in a print, from memory); printer lights of 0.025 log exposure a point (common practice); dye amounts by equivalent neutral density (after Evans, Hanson and Brewer, 1953, from memory). Push by 12 % of slope a stop (from memory).',
  },
  'two-strip': {
    recipe: 'two-strip',
    file: 'keeper-and-apprentice.mp4',
    frame: 20,
    encoding: 'bt1886',
    about:
      'Two black-and-white records behind a red and a green glass, printed in blue-green and orange-red dye, or thrown together in two lights.',
    model:
      'Records from spectra and pass bands; print densities of each record become dye amounts; the pair is balanced by a search for the least chroma at mid grey. Projection adds two lights whose sum is white. Blue recovery adds a yellow image from a blue record. Bands from memory.',
  },
  'three-strip': {
    recipe: 'three-strip',
    file: 'regatta-bunting.mp4',
    frame: 24,
    encoding: 'bt1886',
    about: 'Three separations make matrices that carry dye to one blank, over a weak silver key image.',
    model:
      'Separation records from spectra, an inter-image matrix, a print curve for each matrix, imbibition dyes by equivalent neutral density, key silver from the green record. Registration and bleed act on the dye densities, between two LUTs.',
  },
  'black-and-white': {
    recipe: 'split-tone',
    file: 'keeper-and-apprentice.mp4',
    frame: 20,
    encoding: 'bt1886',
    about:
      'One record in silver; toning baths turn silver into coloured compounds one after the other; a dyed base colours the lights.',
    model:
      'Sensitivity and glass by spectrum; print curve by grade; toning conserves silver: each bath converts a share of what is left, sulphide the light areas first, selenium the dense ones (common practice); compounds and tints as spectral densities (from memory).',
  },
  instant: {
    recipe: 'instant',
    file: 'dawn-fog.mp4',
    frame: 20,
    encoding: 'bt1886',
    about: 'A print that develops in the hand.',
    model:
      'Positive layer curves, records that see each other, dye factors by temperature and time (from memory), spread of dye as a blur in density, falloff in exposure, uneven paste as a seeded field, surface flare.',
  },
  'false-colour': {
    recipe: 'violet-stock',
    file: 'regatta-bunting.mp4',
    frame: 24,
    encoding: 'bt1886',
    about: 'Stock whose records drive the wrong dyes.',
    model:
      'A matrix over the three records before the ordinary chain; the violet one is common practice. Infrared is estimated from red light and from green over blue (leaves and skies), because footage holds none. Negative shares are held softly above nothing.',
  },
  'aged-print': {
    recipe: 'faded-warm',
    file: 'keeper-and-apprentice.mp4',
    frame: 20,
    encoding: 'bt1886',
    about: 'A colour print after years.',
    model:
      'The dye amounts of a plain print are scaled; years act at Arrhenius rates (from memory), cyan fastest in the dark, magenta in light; stain and fog are densities over all.',
  },
}

/** The frame of the demo that tells most about a process, footage and treated picture side by side. */
function picture(recipeId: string, name: string): void {
  const { file, frame, encoding } = TEXTS[name]!
  const filter = `select=eq(n\\,${frame}),zscale=w=${W}:h=${H}:matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le`
  const raw = ffmpeg(`-i demo/footage/${file} -frames:v 1 -vf ${filter} -f rawvideo -pix_fmt rgb48le -`)
  const camera = new Float32Array(4 * W * H)
  makeIngest(encodingById(encoding), 'u16')(new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2), camera, W * H)
  const recipe = SHIPPED_RECIPES.find((r) => r.id === recipeId)!
  const bytes = Buffer.alloc(6 * W * H)
  for (const [side, line] of [{ ...recipe, baths: [] }, recipe].entries()) {
    const out = runPlan(compileLine(line), camera, W, H, new Workbench())
    for (let i = 0; i < W * H; i++)
      for (let k = 0; k < 3; k++)
        bytes[3 * (Math.floor(i / W) * 2 * W + side * W + (i % W)) + k] = Math.round(
          255 * Math.min(1, Math.max(0, out[4 * i + k]!)),
        )
  }
  ffmpeg(`-y -f rawvideo -pixel_format rgb24 -video_size ${2 * W}x${H} -i - docs/processes/${name}.png`, bytes)
}

const ffmpeg = (args: string, input?: Buffer): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', ...args.split(' ')], { maxBuffer: 1e8, ...(input ? { input } : {}) })

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

function page(kind: (typeof KINDS)[number]): string {
  const { recipe, about, model } = TEXTS[kind.id]!
  picture(recipe, kind.id)
  const fields = Object.entries(kind.schema.properties as Record<string, Field>)
  const recipes = SHIPPED_RECIPES.filter((r) => r.baths.some((b) => b.kind === kind.id))
  return [
    MADE,
    `# ${kind.label}\n`,
    `![${kind.label}: the footage at the left, the recipe ${recipe} at the right](${kind.id}.png)\n`,
    `${about}\n`,
    `## Model and sources\n\n${model}\n`,
    `## Settings\n`,
    '| setting | range | default | what it does |\n|---|---|---|---|',
    ...fields.map(([name, f]) => `| \`${name}\` | ${range(f)} | ${String(f.default)} | ${f.title}: ${f.description} |`),
    '\n## Shipped recipes\n',
    ...recipes.map((r) => `- \`${r.id}\` (${r.name}): ${r.summary}`),
    '',
  ].join('\n')
}

const MADE = '<!-- Written by scripts/processes.ts (npm run docs). -->\n'
for (const kind of KINDS) writeFileSync(`docs/processes/${kind.id}.md`, page(kind))
writeFileSync(
  'docs/processes.md',
  [
    MADE,
    '# The processes\n',
    'Every kind works from scene light to display light, in spectra and densities. Values marked ‘from memory’ are typical textbook values recalled, not read. Each picture shows the footage at the left and the process at the right.\n',
    '| | |\n|---|---|',
    ...KINDS.map(
      (k) =>
        `| [![${k.label}](processes/${k.id}.png)](processes/${k.id}.md) | [${k.label}](processes/${k.id}.md). ${k.summary} |`,
    ),
    '',
  ].join('\n'),
)
