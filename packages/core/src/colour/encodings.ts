import { FogBathError } from '../errors'
import { IDENTITY, type Matrix3 } from './matrix'
import { AP1, BT2020, BT709, rgbToRgb, type Primaries } from './spaces'
import { ACESCCT, BT1886, BT709_CURVE, LINEAR, SRGB, type Transfer } from './transfer'

/** What a file's numbers mean. */
export interface Encoding {
  readonly id: string
  readonly label: string
  readonly help: string
  /** `display`: already made for a screen, so it is unprinted first. `scene`: proportional to the light before the lens. */
  readonly refers: 'display' | 'scene'
  readonly transfer: Transfer
  /** Linear RGB of the encoding to linear BT.709 and back. */
  readonly toBt709: Matrix3
  readonly fromBt709: Matrix3
}

function define(
  id: string,
  label: string,
  refers: Encoding['refers'],
  transfer: Transfer,
  primaries: Primaries,
  help: string,
): Encoding {
  const same = primaries === BT709
  return {
    id,
    label,
    help,
    refers,
    transfer,
    toBt709: same ? IDENTITY : rgbToRgb(primaries, BT709),
    fromBt709: same ? IDENTITY : rgbToRgb(BT709, primaries),
  }
}

export const ENCODINGS: readonly Encoding[] = [
  define(
    'bt1886',
    'Video, BT.709 colours, gamma 2.4',
    'display',
    BT1886,
    BT709,
    'Finished video for a BT.1886 display.',
  ),
  define('srgb', 'sRGB', 'display', SRGB, BT709, 'Finished stills and web pictures.'),
  define(
    'bt709',
    'Video, BT.709 curve',
    'display',
    BT709_CURVE,
    BT709,
    'Finished video whose light follows the BT.709 curve.',
  ),
  define(
    'bt2020',
    'Video, BT.2020 colours, gamma 2.4',
    'display',
    BT1886,
    BT2020,
    'Finished wide-gamut video, standard range.',
  ),
  define(
    'acescct',
    'ACEScct log',
    'scene',
    ACESCCT,
    AP1,
    'Camera light in the open ACEScct log encoding, AP1 colours.',
  ),
  define(
    'linear',
    'Scene-linear, BT.709 colours',
    'scene',
    LINEAR,
    BT709,
    'Camera light without any curve; 0.18 is mid grey.',
  ),
  define(
    'linear-ap1',
    'Scene-linear, AP1 colours',
    'scene',
    LINEAR,
    AP1,
    'Camera light in the ACEScg primaries, without any curve.',
  ),
  define(
    'linear-bt2020',
    'Scene-linear, BT.2020 colours',
    'scene',
    LINEAR,
    BT2020,
    'Camera light in BT.2020 primaries, without any curve.',
  ),
]

export const ENCODING_IDS = ENCODINGS.map((e) => e.id)

export function encodingById(id: string): Encoding {
  const found = ENCODINGS.find((e) => e.id === id)
  if (found) return found
  throw new FogBathError('encoding', 'encoding', `'${id}' is not an encoding; use one of: ${ENCODING_IDS.join(', ')}.`)
}
