import { ENCODING_IDS } from '@fogbath/core/encodings'
import { DELIVERY_ENDINGS, SHIPPED_PRESETS } from '@fogbath/core/delivery'
import type { Bath } from '@fogbath/core/line'
import { ReadingSchema, type Reading } from '@fogbath/core/footage'
import { InvalidArgumentError, type Command } from 'commander'
import type { MatchOptions } from '../match'
import { formatNamed, loadPreset } from '../presets'
import type { ProcessOptions } from '../process'
import { validator } from '../../validate'
import { encodingFinder } from '../encodings'
import { tracksIn } from '../tracks'
import {
  ENCODINGS_HELP,
  given,
  jsonProgress,
  loadRecipe,
  print,
  progressLine,
  wholeNumber,
  wholeNumbers,
  wordsLine,
} from './common'

type ProcessCommand = Omit<
  ProcessOptions,
  | 'reading'
  | 'recipe'
  | 'around'
  | 'tracks'
  | 'reads'
  | 'encoding'
  | 'to'
  | 'delivery'
  | 'onProgress'
  | 'onRemark'
  | 'signal'
> & {
  readonly recipe: string
  readonly preset?: string
  readonly json?: boolean
  readonly encodings?: string
  readonly encoding?: string
  readonly to?: string
  readonly read?: Reading
  readonly prepare?: string
  readonly after?: string
  readonly tracks?: readonly string[]
}

type MatchCommand = Omit<MatchOptions, 'onProgress' | 'encoding' | 'toEncoding' | 'toFrame'> & {
  readonly toFrame?: readonly number[]
  readonly encodings?: string
  readonly encoding?: string
  readonly toEncoding?: string
}

const READ_HELP = `how the input is read where the file is not left the word, again for each: ${Object.keys(ReadingSchema.properties).join(', ')}`
const problemOfReading = validator(ReadingSchema)

/** One more setting of a reading, such as `matrix=709`. */
function readSetting(text: string, before: Reading = {}): Reading {
  const [, name, value] = /^(\w+)=(.+)$/.exec(text) ?? []
  if (!name || !value) throw new InvalidArgumentError('It must be a setting and its value, such as matrix=709.')
  const reading = { ...before, [name]: name === 'bits' ? Number(value) : value }
  const problem = problemOfReading(reading, '--read')
  if (problem) throw new InvalidArgumentError(problem)
  return reading
}

/** The baths of a recipe file; short files leave ids out, which would be those of the recipe as well. */
async function bathsIn(file: string | undefined, before: string): Promise<Bath[]> {
  if (file === undefined) return []
  return (await loadRecipe(file)).baths.map((bath, i) => ({ ...bath, id: `${before}${i + 1}` }))
}

/** Footage through a recipe. @param signal stops what is being written */
export function addProcess(program: Command, signal: AbortSignal): void {
  program
    .command('process')
    .description('put a clip, a still or several stills through a recipe')
    .argument('<input...>', 'files; name.%04d.png reads a numbered sequence, several stills are one')
    .requiredOption('--recipe <file-or-id>', 'a recipe file (JSON) or a shipped recipe')
    .option('--prepare <file>', 'baths before the recipe, on scene light: a recipe file whose baths are of Prepare')
    .option('--after <file>', 'baths behind the recipe: a recipe file whose baths are of Finish')
    .option('--tracks <files...>', 'what masks follow: files of fogbath track -o')
    .option('-o, --output <path>', `ends in ${DELIVERY_ENDINGS.join(' ')}; out.%04d.png writes numbered stills`)
    .option('--out <folder>', 'in place of -o: each input by itself, into a file of this folder')
    .option(
      '--preset <name-or-file>',
      `what is written: ${SHIPPED_PRESETS.map((p) => p.id).join(', ')}, or a file (JSON)`,
    )
    .option('--format <id>', 'the format alone; fogbath formats lists them')
    .option('--encodings <file>', ENCODINGS_HELP)
    .option('--encoding <name>', `what the input is taken for: ${ENCODING_IDS.join(', ')}, or one of the file`)
    .option('--read <setting=value>', READ_HELP, readSetting)
    .option('--to <name>', 'encoding of the output (default: as the input, BT.1886 for camera footage, linear in .exr)')
    .option('--frames <range>', 'such as 10-40, counted from 0')
    .option('--fps <rate>', 'frame rate of stills written as a clip', '24')
    .option('--threads <n>', 'threads that share the work on a frame; as many as the machine has, up to 8')
    .option('--force', 'write over files that exist')
    .option('--dry-run', 'only say what would be done')
    .option('--json', 'a line of JSON for each frame: {"frame": 1, "of": 48, "fps": 12.5}; with --dry-run the plan')
    .action(async (inputs: string[], o: ProcessCommand) => {
      const { processFiles } = await import('../process')
      const { recipe, prepare, after, tracks = [], encodings, encoding, to, read, preset, format, json, ...rest } = o
      const find = await encodingFinder(encodings)
      const delivery = preset === undefined ? undefined : await loadPreset(preset)
      const done = await processFiles(inputs, {
        ...rest,
        ...given({ encoding: find(encoding), to: find(to), reading: read, delivery }),
        ...(format !== undefined && { format: formatNamed(format) }),
        recipe: await loadRecipe(recipe),
        around: { preparation: await bathsIn(prepare, 'shot-'), after: await bathsIn(after, 'after-') },
        tracks: await tracksIn(tracks),
        reads: [recipe, prepare, after, encodings, ...tracks].flatMap((file) => file ?? []),
        signal,
        onProgress: json ? jsonProgress() : progressLine(),
        onRemark: (sentence) => process.stderr.write(`fogbath: ${sentence}\n`),
      })
      if (o.dryRun && json) print(JSON.stringify(done, null, 2))
      else if (!json)
        for (const { output, count, width, height, format: id, encoding: as } of done)
          print(
            `${o.output ?? output}: ${count} ${count === 1 ? 'frame' : 'frames'}${o.dryRun ? ` of ${width}x${height}, ${id}, ${as}` : ''}`,
          )
    })
}

/** A recipe from a reference. */
export function addMatch(program: Command): void {
  program
    .command('match')
    .description('fit a process to a reference picture, write its recipe, and say how near it came')
    .argument('<input>', 'the footage')
    .requiredOption('--to <files...>', 'the reference: pictures or clips of the look that is wanted')
    .option('--kind <kind>', 'the process; all of them are tried where it is left out')
    .option('--frame <n>', 'frame of the footage, counted from 0', wholeNumber, 0)
    .option(
      '--to-frame <numbers...>',
      'frames that are looked at in each of them; 0 where it is left out',
      wholeNumbers,
    )
    .option('--same-frame', 'both show the same frame: compared pixel by pixel')
    .option('--encodings <file>', ENCODINGS_HELP)
    .option('--encoding <name>', 'what the footage is taken for')
    .option('--to-encoding <name>', 'what the reference is taken for')
    .requiredOption('-o, --output <path>', 'the recipe, ends in .json')
    .option('--force', 'write over a file that exists')
    .action(async (input: string, o: MatchCommand) => {
      const { matchFiles } = await import('../match')
      const { encodings, encoding, toEncoding, toFrame = [0], ...rest } = o
      const find = await encodingFinder(encodings)
      const named = given({ encoding: find(encoding), toEncoding: find(toEncoding) })
      for (const line of await matchFiles(input, { ...rest, toFrame, ...named, onProgress: wordsLine })) print(line)
    })
}
