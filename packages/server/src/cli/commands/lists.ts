import { KINDS, defaultsOf } from '@fogbath/core/baths'
import { DELIVERY_IDS, SHIPPED_PRESETS, deliveryFormat } from '@fogbath/core/delivery'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import type { Command } from 'commander'
import { ENCODINGS_HELP, print } from './common'

/** What there is: recipes, kinds, and what a file holds. */
export function addLists(program: Command): void {
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
    .command('encodings')
    .description('list what footage can be taken for: shipped encodings, and those of a file')
    .option('--encodings <file>', ENCODINGS_HELP)
    .option('--json', 'as JSON, with what cannot be taken and why')
    .action(async (o: { encodings?: string; json?: boolean }) => {
      const { listEncodings } = await import('../encodings-list')
      const list = await listEncodings(o.encodings)
      if (o.json) print(JSON.stringify(list, null, 2))
      else
        for (const e of list) print(`${e.name.padEnd(28)} ${e.taken ? `${e.about}` : `cannot be taken: ${e.reason}`}`)
    })
  program
    .command('formats')
    .description('list what finished pictures can become, and the presets')
    .option('--json', 'as JSON')
    .action((o: { json?: boolean }) => {
      const formats = DELIVERY_IDS.map((id) => {
        const { label, ending, moving, bits, takes, loses } = deliveryFormat(id)
        return { id, label, ending, moving, bits, takes, loses }
      })
      if (o.json) print(JSON.stringify({ formats, presets: SHIPPED_PRESETS }, null, 2))
      else {
        for (const { id, label, takes, loses } of formats) print(`${id.padEnd(18)} ${label}: ${takes} Loses: ${loses}`)
        for (const { id, name, format } of SHIPPED_PRESETS) print(`${`--preset ${id}`.padEnd(22)} ${name} (${format})`)
      }
    })
  program
    .command('probe')
    .description('say what a file holds')
    .argument('<file>')
    .option('--json', 'as JSON')
    .action(async (file: string, o: { json?: boolean }) => {
      const { probe } = await import('../../media/probe')
      const { withPlainName } = await import('../../media/plain-name')
      const info = await withPlainName(file, (path) => probe({ type: 'file', path }, file))
      if (o.json) print(JSON.stringify(info, null, 2))
      else
        for (const [key, value] of Object.entries(info))
          print(`${key.padEnd(12)} ${Array.isArray(value) ? value.join(' ') : String(value)}`)
    })
}
