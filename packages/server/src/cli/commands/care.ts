import type { Command } from 'commander'
import { print, wholeNumber, wordsLine } from './common'

/** The data folder of the application that is meant. */
const dataFolder = (): string => process.env['FOGBATH_DATA'] ?? '.fogbath'

/** Work on the data of the running application. @param signal stops what is being written */
export function addCare(program: Command, signal: AbortSignal): void {
  program
    .command('backup')
    .description('write all productions, or one, into one file; the application must be running')
    .requiredOption('-o, --output <file>', 'the backup, a ZIP archive')
    .option('--production <id>', 'only this one', wholeNumber)
    .option('--no-media', 'without the footage, which must then be there where it is restored')
    .option('--force', 'write over a file that exists')
    .action(async (o: { output: string; production?: number; media: boolean; force?: boolean }) => {
      const { backUp } = await import('../care')
      const missing = await backUp({ ...o, data: dataFolder(), force: o.force ?? false, signal, onProgress: wordsLine })
      print(`${o.output}: written`)
      for (const name of missing) print(`not in it, missing or damaged: ${name}`)
    })
  program
    .command('restore')
    .description('take a backup in beside what is there; the application must be running')
    .argument('<file>')
    .option('--dry-run', 'only say what it holds')
    .option('--again', 'also when it was taken in before')
    .option('--missing', 'also when footage is missing; its shots wait for it')
    .action(async (file: string, o: { dryRun?: boolean; again?: boolean; missing?: boolean }) => {
      const { restore } = await import('../care')
      const { dryRun: onlyLook = false, again = false, missing = false } = o
      for (const line of await restore(dataFolder(), file, { onlyLook, again, missing, onProgress: wordsLine }))
        print(line)
    })
  program
    .command('sweep')
    .description('remove what is left over in the data folder; done at every start and daily as well')
    .option('--dry-run', 'only say what would go')
    .action(async (o: { dryRun?: boolean }) => {
      const { sweep } = await import('../care')
      for (const line of await sweep(dataFolder(), o.dryRun ?? false)) print(line)
    })
}
