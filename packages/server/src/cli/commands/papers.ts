import { ENCODING_IDS } from '@fogbath/core/encodings'
import { LOOK_FORMATS } from '@fogbath/core/look'
import type { Command } from 'commander'
import type { LutOptions } from '../lut'
import type { SheetOptions } from '../sheet'
import { encodingFinder } from '../encodings'
import { ENCODINGS_HELP, given, loadRecipe, print, wholeNumber } from './common'

type LutCommand = Omit<LutOptions, 'takes' | 'gives'> & {
  readonly recipe: string
  readonly encodings?: string
  readonly takes: string
  readonly gives: string
}

/** A recipe as a file for other programs. */
export function addLut(program: Command): void {
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
    .option('--encodings <file>', ENCODINGS_HELP)
    .option('--takes <name>', `encoding of what the file is given: ${ENCODING_IDS.join(', ')}`, 'bt1886')
    .option('--gives <name>', 'encoding of what it gives', 'bt1886')
    .option('--size <n>', 'nodes a side of a .cube, 2 to 129', wholeNumber, 33)
    .option('--curves', 'a .cube of one curve a channel, for a line that mixes none')
    .option('--shaper', 'beside a .cube, a second one that is applied first: nearer, with as few nodes')
    .option('--leave-out', 'leave out baths that such a file cannot hold, naming them')
    .option('--force', 'write over a file that exists')
    .action(async ({ recipe, encodings, takes, gives, ...rest }: LutCommand) => {
      const { writeLut } = await import('../lut')
      const find = await encodingFinder(encodings)
      const inputs = [recipe, ...(encodings === undefined ? [] : [encodings])]
      const options = { ...rest, ...given({ takes: find(takes), gives: find(gives) }), inputs }
      for (const line of await writeLut(await loadRecipe(recipe), options)) print(line)
    })
}

type SheetCommand = Omit<SheetOptions, 'signal' | 'reads' | 'encoding'> & {
  readonly recipe: string
  readonly encodings?: string
  readonly encoding?: string
}

/** A recipe on paper. @param signal stops what is being written */
export function addSheet(program: Command, signal: AbortSignal): void {
  program
    .command('sheet')
    .description('write the process sheet of a recipe: line, curves, dyes, densities and figures on A4')
    .requiredOption('--recipe <file-or-id>', 'a recipe file (JSON) or a shipped recipe')
    .option('--input <file>', 'footage to show it on, before and after')
    .option('--frame <n>', 'frame of the footage, counted from 0', wholeNumber, 0)
    .option('--encodings <file>', ENCODINGS_HELP)
    .option('--encoding <name>', 'what the footage is taken for')
    .requiredOption('-o, --output <path>', 'ends in .pdf, printed by Chromium, or .html')
    .option('--force', 'write over a file that exists')
    .action(async ({ recipe, encodings, encoding, ...rest }: SheetCommand) => {
      const { writeSheet } = await import('../sheet')
      const find = await encodingFinder(encodings)
      const reads = [recipe, ...(encodings === undefined ? [] : [encodings])]
      await writeSheet(await loadRecipe(recipe), { ...rest, ...given({ encoding: find(encoding) }), reads, signal })
      print(`${rest.output}: written`)
    })
}
