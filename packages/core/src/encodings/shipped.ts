import { AP0, AP1, BT2020, BT709, P3, type Primaries } from '../colour/spaces'
import {
  ACESCC,
  ACESCCT,
  BT1886,
  BT709_CURVE,
  PRINTING_DENSITY,
  SRGB,
  acesProxy,
  type Transfer,
} from '../colour/transfer'
import { FogBathError } from '../errors'
import { memoized } from '../numbers/memoized'
import { simpleEncoding, type Encoding } from './encoding'
import { DEFAULT_KNEE, HIGH_RANGE_SCENE, hlgEncoding, pqEncoding } from './high-range'

const display = (
  texts: Pick<Encoding, 'id' | 'label' | 'help'>,
  transfer: Transfer,
  primaries: Primaries,
  tags: Encoding['tags'] = { primaries: 'bt709', transfer: 'bt709' },
): Encoding => simpleEncoding({ ...texts, refers: 'display', tags }, transfer, primaries)
const log = (id: string, label: string, transfer: Transfer, help: string): Encoding =>
  simpleEncoding({ id, label, help, refers: 'scene' }, transfer, AP1)
const linear = (id: string, colours: string, primaries: Primaries, help: string): Encoding =>
  simpleEncoding({ id, label: `Scene-linear, ${colours} colours`, help, refers: 'scene' }, null, primaries)

/** Encodings of open standards; those of cameras are one's own, see own.ts. */
export const ENCODINGS: readonly Encoding[] = [
  display(
    { id: 'bt1886', label: 'Video, BT.709 colours, gamma 2.4', help: 'Finished video for a BT.1886 display.' },
    BT1886,
    BT709,
  ),
  display({ id: 'srgb', label: 'sRGB', help: 'Finished stills and web pictures.' }, SRGB, BT709, {
    primaries: 'bt709',
    transfer: 'iec61966-2-1',
  }),
  display(
    { id: 'p3', label: 'Display P3', help: 'Finished pictures for wide-gamut screens, with the curve of sRGB.' },
    SRGB,
    P3,
    { primaries: 'smpte432', transfer: 'iec61966-2-1' },
  ),
  display(
    { id: 'bt709', label: 'Video, BT.709 curve', help: 'Finished video whose light follows the BT.709 curve.' },
    BT709_CURVE,
    BT709,
  ),
  display(
    {
      id: 'bt2020',
      label: 'Video, BT.2020 colours, gamma 2.4',
      help: 'Finished wide-gamut video, standard range, 10 or 12 bits.',
    },
    BT1886,
    BT2020,
    { primaries: 'bt2020', transfer: 'bt2020-10' },
  ),
  pqEncoding('pq', DEFAULT_KNEE),
  hlgEncoding('hlg', DEFAULT_KNEE),
  ...HIGH_RANGE_SCENE,
  log('acescct', 'ACEScct log', ACESCCT, 'Camera light in the open ACEScct log encoding, AP1 colours.'),
  log('acescc', 'ACEScc log', ACESCC, 'Camera light in the open ACEScc log encoding, without a toe, AP1 colours.'),
  log('acesproxy', 'ACESproxy log, 10 bits', acesProxy(10), 'Camera light as set sends it on, 10 bits, AP1 colours.'),
  log('acesproxy12', 'ACESproxy log, 12 bits', acesProxy(12), 'Camera light as set sends it on, 12 bits, AP1 colours.'),
  simpleEncoding(
    {
      id: 'printing-density',
      label: 'Printing density of scans',
      help: 'Scanned negative as DPX keeps it, 0.002 a code; the light that exposed it, white at code 685.',
      refers: 'scene',
    },
    PRINTING_DENSITY,
    BT709,
  ),
  linear('linear', 'BT.709', BT709, 'Camera light without any curve; 0.18 is mid grey.'),
  linear('linear-p3', 'P3', P3, 'Camera light in P3 primaries with the white of D65, without any curve.'),
  linear('linear-bt2020', 'BT.2020', BT2020, 'Camera light in BT.2020 primaries, without any curve.'),
  linear('linear-ap0', 'AP0', AP0, 'Camera light as ACES2065-1 keeps it, without any curve.'),
  linear('linear-ap1', 'AP1', AP1, 'Camera light in the ACEScg primaries, without any curve.'),
]

export const ENCODING_IDS = ENCODINGS.map((e) => e.id)

/** High-range encodings with a knee of one's own: `pq:30`, `hlg:0`. */
const KNEED = /^(pq|hlg):(\d{1,3})$/
const MADE = { pq: pqEncoding, hlg: hlgEncoding }
/** Whether these are the high-range encodings that have a knee, and what it is, in per cent. */
export function kneeIn(id: string): { readonly of: 'pq' | 'hlg'; readonly knee: number } | null {
  if (id === 'pq' || id === 'hlg') return { of: id, knee: DEFAULT_KNEE }
  const [, of, text] = KNEED.exec(id) ?? []
  const knee = Number(text)
  return of && knee <= 100 ? { of: of as 'pq' | 'hlg', knee } : null
}
export const withKnee = (of: 'pq' | 'hlg', knee: number): string => (knee === DEFAULT_KNEE ? of : `${of}:${knee}`)

/** An encoding by its id, for schemas of bodies and files; one's own by its digest. */
export const EncodingIdSchema = {
  type: 'string',
  pattern: `^(${ENCODING_IDS.join('|')}|(pq|hlg):(\\d{1,2}|100)|own-[0-9a-f]{16})$`,
  control: 'encoding',
} as const

/** An encoding by its id. Throws naming those that there are. */
export const encodingById = memoized(60, (id: string): Encoding => {
  const found = ENCODINGS.find((e) => e.id === id)
  if (found) return found
  const kneed = kneeIn(id)
  if (kneed) return MADE[kneed.of](id, kneed.knee)
  throw new FogBathError('encoding', 'encoding', `'${id}' is not an encoding; use one of: ${ENCODING_IDS.join(', ')}.`)
})
