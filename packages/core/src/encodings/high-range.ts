import { BT2020 } from '../colour/spaces'
import { HLG, HLG_GAMMA, PQ, type Transfer } from '../colour/transfer'
import { cacheKey, evenCurves, type Axis, type PointStage } from '../stages/stage'
import { decoding, encoding, fromBt709, toBt709, type Encoding } from './encoding'

/**
 * PQ and HLG (ITU-R BT.2100-2), brought into the range of a screen whose white is the reference white: 203 cd/m2
 * (ITU-R BT.2408-7, table 1). What is brighter is drawn together below white by a knee; what is below the knee stays as it is.
 */
const REFERENCE_WHITE = 203
/** Nominal peak, cd/m2: of the display that BT.2100's HLG is defined on with a gamma of 1.2, and of which PQ is mostly made. */
const PEAK = 1000
const PEAK_LIGHT = PEAK / REFERENCE_WHITE
/** A knee of 100 % begins at half of white. */
const DEEPEST = 0.5
export const DEFAULT_KNEE = 50

/**
 * Light into 0..1: straight up to where the knee begins, then the extended operator of E. Reinhard et al. 2002, eq. 4, which has
 * the peak at 1.
 * @param light 1 is the reference white @param knee 0 (cut off at white) to 100 %
 */
export function kneeOf(light: number, knee: number): number {
  const begin = 1 - (DEEPEST * knee) / 100
  if (light <= begin) return light
  if (knee === 0 || light >= PEAK_LIGHT) return 1
  const span = 1 - begin
  const [t, peak] = [(light - begin) / span, (PEAK_LIGHT - begin) / span]
  return begin + (span * t * (1 + t / (peak * peak))) / (1 + t)
}

const LIGHT: Axis = { nodes: 'octaves', from: -40, to: 8 }
const withKnee = (knee: number): PointStage =>
  evenCurves({ key: cacheKey('knee', knee), axis: LIGHT, f: (v) => kneeOf(v, knee) })

/** Luminance of either side of the gamma; powers are steep near black, where light counts for little. */
const LUMINANCE = { nodes: 'even', from: 0, to: 1, steps: 65536 } as const satisfies Axis
/** Each channel times a power of the luminance, 0..1. */
const byLuminance = (key: string, f: (luminance: number) => number): PointStage => ({
  at: 'shade',
  shade: {
    key: cacheKey('luminance', key),
    axis: LUMINANCE,
    f: (y, out) => {
      out.fill(f(y), 0, 3)
      out.fill(0, 3, 6)
    },
  },
})

/** The HLG's system gamma, from scene light to display light and back (BT.2100-2, table 5: OOTF with a black of 0). */
const HLG_SHOWN = byLuminance('hlg shown', (y) => PEAK_LIGHT * y ** (HLG_GAMMA - 1))
const HLG_SEEN = byLuminance('hlg seen', (y) => {
  const shown = Math.max(y, 1 / LUMINANCE.steps)
  return (shown / PEAK_LIGHT) ** (1 / HLG_GAMMA) / shown
})

const scaled = ({ decode, encode }: Transfer, white: number): Transfer => ({
  decode: (code) => decode(code) / white,
  encode: (light) => encode(light * white),
})
const PQ_SHOWN = scaled(PQ, REFERENCE_WHITE)
/** HLG's 75 % is the reference white, and the light of a perfect white (BT.2408-7, table 1). */
const HLG_CAMERA = scaled(HLG, HLG.decode(0.75))

/** As display encodings. @param knee 0..100 % */
export function pqEncoding(id: string, knee: number): Encoding {
  return {
    id,
    label: 'PQ, BT.2100',
    help: `Finished high-range video; 203 cd/m² is white, a knee of ${knee} % holds what is brighter.`,
    refers: 'display',
    numbers: 'codes',
    decode: [decoding('pq', PQ_SHOWN.decode), ...toBt709(BT2020), withKnee(knee)],
    encode: [...fromBt709(BT2020), encoding('pq', PQ_SHOWN.encode)],
    tags: { primaries: 'bt2020', transfer: 'smpte2084' },
  }
}
export function hlgEncoding(id: string, knee: number): Encoding {
  return {
    id,
    label: 'HLG, BT.2100',
    help: `Finished high-range broadcast video; 203 cd/m² is white, a knee of ${knee} % holds what is brighter.`,
    refers: 'display',
    numbers: 'codes',
    decode: [decoding('hlg', HLG.decode), ...toBt709(BT2020), HLG_SHOWN, withKnee(knee)],
    encode: [HLG_SEEN, ...fromBt709(BT2020), encoding('hlg', HLG.encode)],
    tags: { primaries: 'bt2020', transfer: 'arib-std-b67' },
  }
}

/** The same taken as scene light, without a knee: PQ as its display light, HLG as the camera's. */
export const HIGH_RANGE_SCENE: readonly Encoding[] = [
  {
    id: 'pq-scene',
    label: 'PQ as scene light',
    help: 'High-range video taken as camera light; 203 cd/m² is a perfect white.',
    refers: 'scene',
    numbers: 'codes',
    decode: [decoding('pq', PQ_SHOWN.decode), ...toBt709(BT2020)],
    encode: [...fromBt709(BT2020), encoding('pq', PQ_SHOWN.encode)],
  },
  {
    id: 'hlg-scene',
    label: 'HLG as scene light',
    help: 'The camera light of HLG video; 75 % is a perfect white.',
    refers: 'scene',
    numbers: 'codes',
    decode: [decoding('hlg-scene', HLG_CAMERA.decode), ...toBt709(BT2020)],
    encode: [...fromBt709(BT2020), encoding('hlg-scene', HLG_CAMERA.encode)],
  },
]
