import type { Command } from 'commander'
import { Fault } from '../../errors'
import { encodingFinder } from '../encodings'
import { EXIT_MEANS } from '../exit'
import { completion, manual } from '../papers'
import { loadPreset } from '../presets'
import { ENCODINGS_HELP, given, jsonProgress, print, progressLine } from './common'

interface RenderCommand {
  readonly preset: string
  readonly out: string
  readonly shots?: readonly string[]
  readonly media?: string
  readonly force?: boolean
  readonly dryRun?: boolean
  readonly json?: boolean
}

/** Finished pictures: rendered, and held against each other. @param signal stops what is being done */
export function addDeliveries(program: Command, signal: AbortSignal): void {
  program
    .command('render')
    .description('render the shots of a production: of contents.json out of a backup, or of the running application')
    .argument('<contents-or-id>', 'contents.json with its media folder beside it, or the number of a production')
    .requiredOption('--preset <name-or-file>', 'what is written; fogbath formats lists the presets')
    .requiredOption('--out <folder>', 'where to')
    .option('--shots <name-or-number...>', 'these alone')
    .option('--media <folder>', 'where footage lies that is not beside the contents')
    .option('--force', 'write over files that exist')
    .option('--dry-run', 'only say what would be done')
    .option('--json', 'a line of JSON for each frame; with --dry-run the plan')
    .action(async (what: string, o: RenderCommand) => {
      const delivery = await loadPreset(o.preset)
      const onProgress = o.json ? jsonProgress() : progressLine()
      const { preset: _, json, force = false, dryRun = false, ...rest } = o
      const options = { ...rest, delivery, force, dryRun, signal, onProgress }
      const done = /^\d+$/.test(what)
        ? await (await import('../render-running')).renderRunning(Number(what), options)
        : await (await import('../contents')).renderContents(what, options)
      if (dryRun && json) print(JSON.stringify(done, null, 2))
      else if (!json)
        for (const { output, count } of done) print(`${output}: ${count} ${count === 1 ? 'frame' : 'frames'}`)
    })
  program
    .command('compare')
    .description('hold two pictures or clips against each other: CIEDE2000 and codes')
    .argument('<a>')
    .argument('<b>')
    .option('--encodings <file>', ENCODINGS_HELP)
    .option('--encoding <name>', 'what both are taken for; what each says of itself when left out')
    .option('--heat-map <file>', 'a PNG of the worst frame: black where both are the same, white from 5 dE2000 on')
    .option('--json', 'as JSON')
    .action(
      async (a: string, b: string, o: { encodings?: string; encoding?: string; heatMap?: string; json?: boolean }) => {
        const { compareFiles } = await import('../compare')
        const find = await encodingFinder(o.encodings)
        const named = given({ encoding: find(o.encoding), heatMap: o.heatMap })
        const result = await compareFiles(a, b, { ...named, signal, onFrame: progressLine() })
        if (o.json) return print(JSON.stringify(result, null, 2))
        const { difference: d, codes: c, frames, same } = result
        const figures = (f: typeof c, digits: number): string =>
          `mean ${f.mean.toFixed(digits)}, 99 % below ${f.p99.toFixed(digits)}, worst ${f.worst.toFixed(digits)}`
        print(
          same
            ? `the same: ${frames} ${frames === 1 ? 'frame' : 'frames'}`
            : `dE2000   ${figures(d, 3)} (frame ${d.where.frame}, ${d.where.x} across, ${d.where.y} down)`,
        )
        if (!same) print(`codes    ${figures(c, 1)} of 65535`)
      },
    )
  program
    .command('completion')
    .description('print what a shell needs to complete commands and options')
    .argument('<shell>', 'bash or zsh')
    .action((shell: string) => {
      if (shell !== 'bash' && shell !== 'zsh')
        throw new Fault('usage', `There is no completion for '${shell}'; there is for bash and zsh.`)
      print(completion(program, shell))
    })
  program
    .command('manual')
    .description('print the page of the manual: fogbath manual | man -l -')
    .action(() => print(manual(program, EXIT_MEANS)))
}
