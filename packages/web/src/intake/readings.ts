import type { MediaInfo } from '@fogbath/contract'
import { FIELDS, MATRICES, RATES, SITINGS, type Reading } from '@fogbath/core/footage'
import { framesASecond } from '@fogbath/core/numbers'

/** What a select holds for "as the file says", and for leaving shots as they are. */
export const FILE = 'file'
export const LEAVE = 'leave'

export type ReadingName = keyof Reading
// An alias, so that it fits where any other fields are allowed too.
type Choice = { readonly value: string; readonly label: string }
interface ReadingSetting {
  readonly name: ReadingName
  readonly label: string
  /** Whether it can be set for this footage. */
  readonly applies: (info: MediaInfo) => boolean
  readonly choices: readonly Choice[]
}

const named = (texts: Record<string, string>): Choice[] =>
  Object.entries(texts).map(([value, label]) => ({ value, label }))
const ycbcr = ({ matrix }: MediaInfo): boolean => matrix !== 'gbr'
export const rateLabel = (fps: string): string => String(Number(framesASecond(fps).toFixed(3)))

/** Frames a second, as selects have them. */
export const RATE_CHOICES = RATES.map((value) => ({ value, label: rateLabel(value) }))

/** The settings of a reading as they stand in the sheet. */
export const READING_SETTINGS: readonly ReadingSetting[] = [
  { name: 'matrix', label: 'Matrix', applies: ycbcr, choices: named(MATRICES) },
  {
    name: 'range',
    label: 'Range',
    applies: ({ float }) => !float,
    choices: named({ limited: 'video, 16 to 235 of 255', full: 'full, 0 to 255' }),
  },
  { name: 'chromaAt', label: 'Chroma siting', applies: ycbcr, choices: named(SITINGS) },
  {
    name: 'bits',
    label: 'Bits used',
    applies: (i) => i.matrix === 'gbr' && !i.float && (i.bits === 16 || i.reading?.bits !== undefined),
    choices: ['10', '12', '14'].map((value) => ({ value, label: `the lowest ${value} of 16` })),
  },
  {
    name: 'fields',
    label: 'Fields',
    applies: ({ kind }) => kind === 'clip',
    choices: named(FIELDS).map(({ value, label }) => ({ value, label: `made one picture, ${label} field first` })),
  },
  {
    name: 'pixels',
    label: 'Pixels',
    applies: () => true,
    choices: ['8:9', '10:11', '16:15', '12:11', '32:27', '40:33', '64:45', '16:11', '4:3', '2:1'].map((value) => ({
      value,
      label: `${value}, made square`,
    })),
  },
  {
    name: 'fps',
    label: 'Frames a second',
    applies: ({ kind, varies }) => kind === 'sequence' || varies !== undefined,
    choices: RATE_CHOICES,
  },
]

/** Choices for footage: the shape that the file names stands first, also where it is none of the usual ones. */
export const choicesOf = ({ name, choices }: ReadingSetting, info: MediaInfo | null): readonly Choice[] => {
  const own = name === 'pixels' ? info?.pixels : undefined
  if (!own) return choices
  return [{ value: own, label: `${own} as the file says, made square` }, ...choices.filter((c) => c.value !== own)]
}

/** A reading with a setting chosen in the sheet. */
export function withChoice(reading: Reading, name: ReadingName, value: string): Reading {
  const { [name]: _, ...rest } = reading
  if (value === FILE) return rest
  return { ...rest, [name]: name === 'bits' ? Number(value) : value }
}

const MATRIX_NAMES: Readonly<Record<string, string>> = { ...MATRICES, '170m': 'BT.601', gbr: 'R’G’B’' }

/** How footage is read, in one line, with what was guessed. */
export function readingInWords({ matrix, range, float, guessed = {}, reading = {} }: MediaInfo): string {
  const said = [
    MATRIX_NAMES[matrix] ?? matrix,
    ...(float ? [] : [range === 'full' ? 'full range' : 'video range']),
    ...(reading.fields ? ['fields made one picture'] : []),
    ...(reading.pixels ? [`pixels of ${reading.pixels} made square`] : []),
    ...(reading.bits ? [`${reading.bits} bits used`] : []),
  ]
  const open = Object.entries(guessed).filter(([name]) => name !== 'encoding' && !(name in reading))
  const guesses = open.map(([name, from]) => `${name} ${from}`)
  return `${said.join(', ')}${guesses.length ? `; guessed: ${guesses.join(', ')}` : ''}`
}
