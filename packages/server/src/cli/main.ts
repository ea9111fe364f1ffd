import { readFile } from 'node:fs/promises'
import { existsSync } from 'node:fs'
import { Command, InvalidArgumentError } from 'commander'
import { ENCODING_IDS, KINDS, SHIPPED_RECIPES, LOOK_FORMATS, defaultsOf, type Recipe } from '@fogbath/core'
import { Fault, sentenceOf } from '../errors'
import type { LutOptions } from './lut'
import type { SheetOptions } from './sheet'
import type { MatchOptions } from './match'
import type { ProcessOptions } from './process'

/** A recipe by the path of a file, or by the id of a shipped one. */
async function loadRecipe(name: string): Promise<Recipe> {
  const shipped = SHIPPED_RECIPES.find((r) => r.id === name)
  if (shipped) return shipped
  if (!existsSync(name)) {
    const ids = SHIPPED_RECIPES.map((r) => r.id).join(', ')
    throw new Fault('usage', `'${name}' is neither a recipe file nor a shipped recipe (${ids}).`)
  }
  const { parseRecipe } = await import('../validate')
  return parseRecipe(await readFile(name, 'utf8'), name)
}

const wholeNumber = (text: string): number => {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError('It must be a whole number.')
  return Number(text)
}

const print = (text: string): void => void process.stdout.write(`${text}\n`)

/** A line that is rewritten on a terminal and left out elsewhere. */
function progressLine(): (done: number, of: number) => void {
  const started = Date.now()
  return (done, of) => {
    if (!process.stderr.isTTY) return
    const left = Math.round((((Date.now() - started) / done) * (of - done)) / 1000)
    process.stderr.write(`\r${done} of ${of} frames, ${left} s left   ${done === of ? '\n' : ''}`)
  }
}

/** @param signal stops what is being written */
function makeProgram(signal: AbortSignal): Command {
  const program = new Command('fogbath').description('Historical photochemical laboratory processes on footage.')
  program.showHelpAfterError(false).exitOverride()
  program
    .command('process')
    .description('put a clip, a still or several stills through a recipe')
    .argument('<input...>', 'files; name.%04d.png reads a numbered sequence')
    .requiredOption('--recipe <file-or-id>', 'a recipe file (JSON) or a shipped recipe')
    .requiredOption('-o, --output <path>', 'ends in .png .tif .exr .mp4 .mov; out.%04d.png writes numbered stills')
    .option('--encoding <id>', `what the input is taken for: ${ENCODING_IDS.join(', ')}`)
    .option('--to <id>', 'encoding of the output (default: as the input, BT.1886 for camera footage, linear in .exr)')
    .option('--frames <range>', 'such as 10-40, counted from 0')
    .option('--fps <rate>', 'frame rate of stills written as a clip', '24')
    .option('--threads <n>', 'threads that share the work on a frame; as many as the machine has, up to 8')
    .option('--force', 'write over files that exist')
    .action(async (inputs: string[], o: Omit<ProcessOptions, 'recipe'> & { recipe: string }) => {
      const { processFiles } = await import('./process')
      const { recipe, ...rest } = o
      const count = await processFiles(inputs, {
        ...rest,
        recipe: await loadRecipe(recipe),
        signal,
        onProgress: progressLine(),
      })
      print(`${o.output}: ${count} ${count === 1 ? 'frame' : 'frames'}`)
    })
  program
    .command('lut')
    .description('write the look of a recipe as a file of tables or numbers, and say how far it is from the process')
    .requiredOption('--recipe <file-or-id>', 'a recipe file (JSON) or a shipped recipe')
    .requiredOption(
      '-o, --output <path>',
      `the ending decides: ${Object.keys(LOOK_FORMATS)
        .map((f) => `.${f}`)
        .join(' ')}`,
    )
    .option('--takes <id>', `encoding of what the file is given: ${ENCODING_IDS.join(', ')}`, 'bt1886')
    .option('--gives <id>', 'encoding of what it gives', 'bt1886')
    .option('--size <n>', 'nodes a side of a .cube, 2 to 129', wholeNumber, 33)
    .option('--curves', 'a .cube of one curve a channel, for a line that mixes none')
    .option('--shaper', 'beside a .cube, a second one that is applied first: nearer, with as few nodes')
    .option('--leave-out', 'leave out baths that such a file cannot hold, naming them')
    .option('--force', 'write over a file that exists')
    .action(async ({ recipe, ...rest }: LutOptions & { recipe: string }) => {
      const { writeLut } = await import('./lut')
      for (const line of await writeLut(await loadRecipe(recipe), { ...rest, inputs: [recipe] })) print(line)
    })
  program
    .command('sheet')
    .description('write the process sheet of a recipe: line, curves, dyes, densities and figures on A4')
    .requiredOption('--recipe <file-or-id>', 'a recipe file (JSON) or a shipped recipe')
    .option('--input <file>', 'footage to show it on, before and after')
    .option('--frame <n>', 'frame of the footage, counted from 0', wholeNumber, 0)
    .option('--encoding <id>', 'what the footage is taken for')
    .requiredOption('-o, --output <path>', 'ends in .pdf, printed by Chromium, or .html')
    .option('--force', 'write over a file that exists')
    .action(async ({ recipe, ...rest }: Omit<SheetOptions, 'signal'> & { recipe: string }) => {
      const { writeSheet } = await import('./sheet')
      await writeSheet(await loadRecipe(recipe), { ...rest, signal })
      print(`${rest.output}: written`)
    })
  program
    .command('match')
    .description('fit a process to a reference picture, write its recipe, and say how near it came')
    .argument('<input>', 'the footage')
    .requiredOption('--to <file>', 'the reference: a picture, or a clip')
    .option('--kind <kind>', 'the process; all of them are tried where it is left out')
    .option('--frame <n>', 'frame of the footage, counted from 0', wholeNumber, 0)
    .option('--to-frame <n>', 'frame of the reference', wholeNumber, 0)
    .option('--same-frame', 'both show the same frame: compared pixel by pixel')
    .option('--encoding <id>', 'what the footage is taken for')
    .option('--to-encoding <id>', 'what the reference is taken for')
    .requiredOption('-o, --output <path>', 'the recipe, ends in .json')
    .option('--force', 'write over a file that exists')
    .action(async (input: string, o: Omit<MatchOptions, 'onProgress'>) => {
      const { matchFiles } = await import('./match')
      const onProgress = (words: string): void =>
        void (process.stderr.isTTY && process.stderr.write(`\r${words.padEnd(60)}`))
      for (const line of await matchFiles(input, { ...o, onProgress })) print(line)
    })
  program
    .command('recipes')
    .description('list the shipped recipes')
    .option('--json', 'whole recipes as JSON')
    .action((o: { json?: boolean }) => {
      if (o.json) print(JSON.stringify(SHIPPED_RECIPES, null, 2))
      else for (const r of SHIPPED_RECIPES) print(`${r.id.padEnd(28)} ${r.name}: ${r.summary}`)
    })
  program
    .command('kinds')
    .description('list the kinds of bath')
    .option('--json', 'with schema and defaults as JSON')
    .action((o: { json?: boolean }) => {
      const shown = KINDS.map((k) => ({
        id: k.id,
        label: k.label,
        family: k.family.name,
        stretch: k.stretch,
        takes: k.takes,
        summary: k.summary,
        schema: k.schema,
        defaults: defaultsOf(k.schema),
      }))
      if (o.json) print(JSON.stringify(shown, null, 2))
      else for (const k of shown) print(`${k.id.padEnd(20)} ${k.label} (${k.stretch}): ${k.summary}`)
    })
  program
    .command('probe')
    .description('say what a file holds')
    .argument('<file>')
    .option('--json', 'as JSON')
    .action(async (file: string, o: { json?: boolean }) => {
      const { probe } = await import('../media/probe')
      const { withPlainName } = await import('../media/source')
      const info = await withPlainName(file, (path) => probe({ type: 'file', path }, file))
      if (o.json) print(JSON.stringify(info, null, 2))
      else
        for (const [key, value] of Object.entries(info))
          print(`${key.padEnd(12)} ${Array.isArray(value) ? value.join(' ') : String(value)}`)
    })
  addCareCommands(program, signal)
  return program
}

/** The data folder of the application that is meant. */
const dataFolder = (): string => process.env['FOGBATH_DATA'] ?? '.fogbath'

/** Commands on the data of the running application. */
function addCareCommands(program: Command, signal: AbortSignal): void {
  program
    .command('backup')
    .description('write all productions, or one, into one file; the application must be running')
    .requiredOption('-o, --output <file>', 'the backup, a ZIP archive')
    .option('--production <id>', 'only this one', wholeNumber)
    .option('--no-media', 'without the footage, which must then be there where it is restored')
    .option('--force', 'write over a file that exists')
    .action(async (o: { output: string; production?: number; media: boolean; force?: boolean }) => {
      const { backUp } = await import('./care')
      await backUp({ ...o, data: dataFolder(), force: o.force ?? false, signal })
      print(`${o.output}: written`)
    })
  program
    .command('restore')
    .description('take a backup in beside what is there; the application must be running')
    .argument('<file>')
    .option('--dry-run', 'only say what it holds')
    .action(async (file: string, o: { dryRun?: boolean }) => {
      const { linesOf, restore } = await import('./care')
      for (const line of linesOf(await restore(dataFolder(), file, o.dryRun ?? false))) print(line)
    })
  program
    .command('sweep')
    .description('remove what is left over in the data folder; done at every start and daily as well')
    .option('--dry-run', 'only say what would go')
    .action(async (o: { dryRun?: boolean }) => {
      const { sweep } = await import('./care')
      for (const line of await sweep(dataFolder(), o.dryRun ?? false)) print(line)
    })
}

/** Runs the command line; the exit code is 0 only when all went well, and an error is one sentence on stderr. */
export async function main(argv: readonly string[]): Promise<number> {
  const interrupted = new AbortController()
  // Kept listening: the packages that run ffmpeg end the program where nobody else listens any more.
  for (const name of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(name, () => interrupted.abort(name))
  // Whoever reads what is printed may have had enough of it, as `head` does.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => error.code === 'EPIPE' && process.exit(0))
  const program = makeProgram(interrupted.signal)
  program.configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, 'fogbath: ')) })
  program.commands.forEach((c) =>
    c.exitOverride().configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, 'fogbath: ')) }),
  )
  try {
    await program.parseAsync([...argv], { from: 'user' })
    return 0
  } catch (error) {
    const { code, exitCode } = error as { code?: string; exitCode?: number }
    if (code?.startsWith('commander.')) return exitCode ?? 1
    if (interrupted.signal.aborted) {
      process.stderr.write('\nfogbath: stopped; nothing was written.\n')
      return 130
    }
    process.stderr.write(`fogbath: ${sentenceOf(error).replace(/\s+/g, ' ')}\n`)
    return 1
  }
}
