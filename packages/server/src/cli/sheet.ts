import type { EncodingRef } from '@fogbath/core/encodings'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { basename, extname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { NOTHING_AROUND, type Recipe } from '@fogbath/core/line'
import { timecode } from '@fogbath/core/numbers'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { sheetOf, type SheetShot } from '@fogbath/sheet'
import { execa } from 'execa'
import { Fault } from '../errors'
import { withFile } from '../files/inside'
import { readOwn } from '../files/own'
import { hashOfStream } from '../media/health'
import { runFfmpeg } from '../media/ffmpeg'
import { probe } from '../media/probe'
import { withPlainName } from '../media/plain-name'
import { checkOutputs, writeOutput } from './outputs'
import { processFiles } from './process'

export interface SheetOptions {
  readonly output: string
  readonly input?: string
  /** Files that are read besides the input: none of them is written over. */
  readonly reads: readonly string[]
  readonly frame: number
  readonly encoding?: EncodingRef
  readonly force?: boolean
  readonly signal: AbortSignal
}

/** Writes the process sheet of a recipe as a PDF, or as the page that it is printed from. */
export async function writeSheet(recipe: Recipe, options: SheetOptions): Promise<void> {
  const { output, input, force = false, signal } = options
  const ending = extname(output).toLowerCase()
  if (ending !== '.pdf' && ending !== '.html')
    throw new Fault('usage', `The output '${output}' must end in .pdf or .html.`)
  const chromium = ending === '.pdf' ? await findChromium() : null
  await checkOutputs([output], [...options.reads, ...(input === undefined ? [] : [input])], force)
  const folder = await mkdtemp(join(tmpdir(), 'fogbath-sheet-'))
  try {
    const shot = input === undefined ? null : await shotOf(recipe, input, options, folder)
    const date = new Date().toISOString().slice(0, 10)
    const shipped = SHIPPED_RECIPES.some((own) => own === recipe)
    const sheet = await sheetOf(recipe, { version: shipped ? 'as shipped' : 'recipe file', date, shot })
    const page = join(folder, 'sheet.html')
    await writeFile(page, await pageOf(recipe.name, sheet))
    if (chromium) await print(chromium, page, output, folder, signal)
    else await writeOutput(output, await readOwn(page))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Width of a picture on paper, pixels: 300 to the inch. */
const PICTURE = 1040

async function shotOf(
  recipe: Recipe,
  input: string,
  { frame, encoding, signal }: SheetOptions,
  folder: string,
): Promise<SheetShot> {
  const info = await withPlainName(input, (path) => probe({ type: 'file', path }, input))
  const through = async (line: Recipe, name: string): Promise<string> => {
    const whole = join(folder, `${name}.png`)
    const small = join(folder, `${name}.jpg`)
    const rest = encoding === undefined ? {} : { encoding }
    await processFiles([input], { recipe: line, output: whole, frames: String(frame), signal, ...rest })
    const scale = `scale='min(${PICTURE},iw)':-2:flags=area`
    const failed = await runFfmpeg(['-y', '-i', whole, '-vf', scale, '-q:v', '2', small], 60_000, {})
    if (failed) throw new Fault('media', `The picture could not be made smaller: ${failed}`)
    return `data:image/jpeg;base64,${(await readOwn(small)).toString('base64')}`
  }
  return {
    name: basename(input),
    production: null,
    file: basename(input),
    frame,
    around: NOTHING_AROUND,
    notes: [],
    timecode: timecode(frame, info.fps, info.timecode),
    sha256: await withFile(input, hashOfStream),
    before: await through({ ...recipe, baths: [] }, 'before'),
    after: await through(recipe, 'after'),
  }
}

const FONTS = [
  ['Archivo Narrow', 400, '@fontsource/archivo-narrow/files/archivo-narrow-latin-400-normal.woff2'],
  ['Archivo Narrow', 600, '@fontsource/archivo-narrow/files/archivo-narrow-latin-600-normal.woff2'],
  ['Spline Sans Mono', 400, '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-400-normal.woff2'],
] as const

/** A page of its own, with its typefaces in it. */
async function pageOf(name: string, sheet: string): Promise<string> {
  const { resolve } = createRequire(import.meta.url)
  const faces = await Promise.all(
    FONTS.map(async ([family, weight, file]) => {
      const data = (await readOwn(resolve(file))).toString('base64')
      return `@font-face { font-family: '${family}'; font-weight: ${weight}; src: url(data:font/woff2;base64,${data}) }`
    }),
  )
  const title = name.replace(/[&<>]/g, ' ')
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${title}</title><style>
@page { size: A4; margin: 13mm 14mm }
body { margin: 0 auto; width: 182mm }
${faces.join('\n')}
</style></head><body>${sheet}</body></html>`
}

const CHROMIUM = ['chromium', 'chromium-headless-shell', 'chromium-browser']

async function findChromium(): Promise<string> {
  for (const name of CHROMIUM)
    if (!(await execa(name, ['--version'], { reject: false, timeout: 20_000 })).failed) return name
  throw new Fault(
    'program',
    'A PDF is printed by Chromium, which is not installed; install Debian’s package chromium (apt-get install chromium), or write a page with -o sheet.html and print that.',
  )
}

async function print(
  program: string,
  page: string,
  output: string,
  folder: string,
  signal: AbortSignal,
): Promise<void> {
  const made = join(folder, 'sheet.pdf')
  // Chromium's own sandbox cannot be used by root; the page is ours and loads nothing.
  const root = process.getuid?.() === 0 ? ['--no-sandbox'] : []
  const args = [
    ...['--headless', ...root, '--disable-gpu', `--user-data-dir=${join(folder, 'profile')}`],
    ...['--no-pdf-header-footer', `--print-to-pdf=${made}`, pathToFileURL(page).href],
  ]
  const result = await execa(program, args, { reject: false, timeout: 120_000, cancelSignal: signal })
  signal.throwIfAborted()
  const bytes = await readOwn(made).catch(() => null)
  if (!bytes) throw new Fault('program', `Chromium could not print the sheet: ${result.stderr.split('\n').pop() ?? ''}`)
  await writeOutput(output, bytes)
}
