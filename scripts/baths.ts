// npm run docs: writes docs/baths.md and a page for each kind of bath from the kinds' own schemas, with a demo picture of
// each, and docs/recipes.md with every recipe on every demo clip.
import { readFileSync, writeFileSync } from 'node:fs'
import { KINDS, STRETCHES, defaultsOf, type Kind } from '@fogbath/core/baths'
import { deliveryTable } from '@fogbath/core/delivery'
import { ENCODINGS } from '@fogbath/core/encodings'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Sheet, demoFrame } from './lib/pictures'
import { writeRecipes } from './recipes'

const [W, H] = [400, 225]

/** Footage of the demo on which a kind is shown; faces where nothing else is named. */
const FACES = { file: 'keeper-and-apprentice.mp4', frame: 20 }
const SHOWN_ON: Record<string, { readonly file: string; readonly frame: number }> = {
  'three-strip': { file: 'regatta-bunting.mp4', frame: 24 },
  instant: { file: 'dawn-fog.mp4', frame: 20 },
  'false-colour': { file: 'regatta-bunting.mp4', frame: 24 },
}

/** The frame of the demo that tells most about a kind, footage and treated picture side by side. */
function picture(recipeId: string, name: string): void {
  const { file, frame } = SHOWN_ON[name] ?? FACES
  const codes = demoFrame(file, frame, W, H)
  const recipe = SHIPPED_RECIPES.find((r) => r.id === recipeId)!
  const sheet = new Sheet(2 * W, H)
  for (const [side, line] of [{ ...recipe, baths: [] }, recipe].entries())
    sheet.put(line, codes, [W, H], 'bt1886', side * W, 0)
  sheet.write(`docs/baths/${name}.png`)
}

interface Field {
  readonly title: string
  readonly description: string
  readonly unit?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly default: unknown
  readonly enum?: readonly string[]
  readonly type?: string
  readonly pattern?: string
  readonly required?: readonly string[]
}

const range = (f: Field): string =>
  f.type === 'array'
    ? 'points of a curve'
    : f.pattern
      ? 'a colour, #rrggbb'
      : f.default === null
        ? f.required?.includes('ops')
          ? 'an encoding of your own'
          : 'a .cube file'
        : numbers(f)

const numbers = (f: Field): string =>
  f.enum
    ? f.enum.join(', ')
    : f.minimum === undefined
      ? 'on, off'
      : `${f.minimum} to ${f.maximum}${f.unit ? ` ${f.unit}` : ''}`

const shownDefault = (v: unknown): string =>
  v === null ? 'none' : typeof v === 'object' ? JSON.stringify(v) : String(v)

/** What is said of kinds whose settings are drawn on the wedge. */
const WEDGE = `## The toned wedge

![The bench with a bath of ranges: hills over the grey wedge](../screenshots/wedge.png)

Below lies the grey wedge from black to white, as it comes and as the bath makes it; over it stands how much colour each tone takes, filled with
the colour that the tone becomes. Each range is a hill with a drop on its top. Drag the drop up or down for the amount, sideways for the hue; a half circle of hues
opens around it, and a click on it takes one. The limits on the bar are dragged sideways to move them, up and down to make them softer or wider.
With keys: Tab goes from hill to hill and on to the limits, arrows set the amount, Alt and arrows the hue, Shift makes steps small. A flat line is neutral.
`

function page(kind: Kind): string {
  const { recipe, about, model } = kind.notes
  if (recipe) picture(recipe, kind.id)
  const fields = Object.entries(kind.schema.properties as Record<string, Field>)
  const recipes = SHIPPED_RECIPES.filter((r) => r.baths.some((b) => b.kind === kind.id))
  return [
    MADE,
    `# ${kind.label}\n`,
    ...(recipe
      ? [`![${kind.label}: the footage at the left, the recipe ${recipe} at the right](${kind.id}.png)\n`]
      : []),
    `${about}\n`,
    ...(kind.views(defaultsOf(kind.schema)).some((v) => v.view === 'wedge') ? [WEDGE] : []),
    `## Model and sources\n\n${model}\n`,
    `## Settings\n`,
    '| setting | range | default | what it does |\n|---|---|---|---|',
    ...fields.map(
      ([name, f]) => `| \`${name}\` | ${range(f)} | ${shownDefault(f.default)} | ${f.title}: ${f.description} |`,
    ),
    ...(recipes.length > 0
      ? ['\n## Shipped recipes\n', ...recipes.map((r) => `- \`${r.id}\` (${r.name}): ${r.summary}`)]
      : []),
    '',
  ].join('\n')
}

const SAID: Record<(typeof STRETCHES)[number], readonly [title: string, text: string]> = {
  prepare: ['Prepare', 'They work on scene light, before all chemistry.'],
  process: ['Process', 'They turn scene light into display light, in spectra and densities.'],
  finish: [
    'Finish',
    'They work on display code values (BT.1886), 0 black to 1 white; between them values may leave 0..1.',
  ],
}

function stretchOf(stretch: (typeof STRETCHES)[number]): string[] {
  const [title, text] = SAID[stretch]
  const row = (k: Kind): string => {
    const picture = k.notes.recipe ? `[![${k.label}](baths/${k.id}.png)](baths/${k.id}.md)` : ''
    return `| ${picture} | [${k.label}](baths/${k.id}.md). ${k.summary} |`
  }
  return [`## ${title}\n`, `${text}\n`, '| | |\n|---|---|', ...KINDS.filter((k) => k.stretch === stretch).map(row), '']
}

const MADE = '<!-- Written by scripts/baths.ts (npm run docs). -->\n'
for (const kind of KINDS) writeFileSync(`docs/baths/${kind.id}.md`, page(kind))
writeFileSync(
  'docs/baths.md',
  [
    MADE,
    '# The baths\n',
    'Three stretches of a line. Each picture shows the footage at the left and a recipe with the bath at the right. Values marked ‘from memory’ are typical textbook values recalled, not read.\n',
    ...STRETCHES.flatMap(stretchOf),
  ].join('\n'),
)
writeRecipes()

/** Puts a table between its marks in a page. */
function putBetween(file: string, [from, to]: readonly [string, string], table: string): void {
  const [before, , after] = readFileSync(file, 'utf8').split(new RegExp(`${from}|${to}`))
  writeFileSync(file, `${before}${from}\n\n${table}\n\n${to}${after}`)
}
putBetween('README.md', ['<!-- Formats, written by npm run docs. -->', '<!-- End of formats. -->'], deliveryTable())
putBetween(
  'docs/encodings.md',
  ['<!-- Encodings, written by npm run docs. -->', '<!-- End of encodings. -->'],
  [
    '| id | encoding | refers to | for |\n|---|---|---|---|',
    ...ENCODINGS.map((e) => `| \`${e.id}\` | ${e.label} | ${e.refers} | ${e.help} |`),
  ].join('\n'),
)
