import Type from 'typebox'
import { bathSchemaOf, type Bath } from '../../line/bath-schema'
import { stroke } from '../emblem'
import { LAID_OVER } from '../grading/families'
import { defineKind } from '../kind'
import { ORDINARY_KINDS } from '../ordinary'

/** Most baths in a strand. */
export const MOST_IN_STRAND = 12

/** What may stand in a strand: all that works on the picture itself. */
export const STRAND_KINDS = ORDINARY_KINDS.filter((k) => k.stretch !== 'prepare')

const StrandSettings = Type.Object(
  {
    baths: Type.Unsafe<readonly Bath[]>({
      type: 'array',
      maxItems: MOST_IN_STRAND,
      items: bathSchemaOf(STRAND_KINDS),
      default: [],
      control: 'drawn',
      title: 'Baths',
      description: 'The strand’s own baths, in their order.',
      group: 'Strand',
      first: true,
    }),
  },
  { additionalProperties: false },
)

/** A short line of its own, laid over the line. */
export const strand = defineKind({
  id: 'strand',
  label: 'Strand of baths',
  short: 'Strand',
  family: { name: LAID_OVER, emblem: [stroke('M1.5 10.5h3c2 0 2-6 4-6h6'), stroke('M1.5 10.5h13')] },
  stretch: 'finish',
  summary: 'A short line of its own, from the camera or from the line so far, treated apart and laid over.',
  notes: {
    about: 'Baths treated apart and laid over the line together.',
    model:
      'The strand begins with the untreated picture or with the line so far and goes through its own baths as a line does; what comes out is laid as one bath. Prepare baths before it hold for it too; a strand holds no strand.',
  },
  schema: StrandSettings,
  takes: 'camera',
  takesEither: true,
  laid: { strength: 50 },
  stages: () => [],
  strand: (s) => s.baths,
  idle: (s) => (s.baths.some((b) => b.in && b.strength > 0) ? null : 'it has no baths yet'),
  views: () => [],
})
