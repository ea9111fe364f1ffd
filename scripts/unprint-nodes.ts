// npm run unprint: works out the table of unprinting (packages/core/src/film/unprint-nodes.ts) anew. Needed when the plain
// process changes: its curves, dyes, records or ends. Takes three minutes.
import { writeFileSync } from 'node:fs'
import { makeUnprint } from '../packages/core/src/baths/colour-print/unprint'
import type { Triple } from '../packages/core/src/colour/matrix'
import { codeAt, placesOf } from '../packages/core/src/line/unprinted'
import { numberToHalf } from '../packages/core/src/numbers/half'

/** As many nodes a side as every table of three numbers has, see cpu/tables.ts. */
const SIDE = 33
const solve = makeUnprint()
const codes = placesOf(SIDE).map(codeAt)
const nodes = new Uint16Array(3 * SIDE ** 3)
let at = 0
for (const b of codes)
  for (const g of codes)
    for (const r of codes) for (const light of solve([r, g, b] as Triple)) nodes[at++] = numberToHalf(light)

const text = Buffer.from(nodes.buffer).toString('base64')
writeFileSync(
  'packages/core/src/film/unprint-nodes.ts',
  `/** Made by \`npm run unprint\`: half floats, three a node, red running fastest; see line/unprinted.ts. */\nexport const UNPRINT_NODES =\n  '${text}'\n`,
)
