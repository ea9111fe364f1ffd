import { IDENTITY, invert, multiply, type Matrix3 } from '../../colour/matrix'
import { AP0, AP1, BT2020, BT709, P3, adaptation, rgbToRgb, rgbToXyz, xyzOf, type Primaries } from '../../colour/spaces'
import { same, type CurveOp, type MatrixOp, type Op } from '../ops/op'

export const matrixOp = (matrix: Matrix3): MatrixOp => ({ op: 'matrix', matrix, offset: same(0) })
const curve = (name: CurveOp['curve'], back = false): CurveOp => ({ op: 'curve', back, curve: name })
const power = (v: number): Op => ({ op: 'exponent', below: 'mirror', power: same(v) })

/** Linear RGB to XYZ under D65, by Bradford where the white is another. */
const toXyzD65 = (p: Primaries): Matrix3 => multiply(adaptation(xyzOf(p.white), xyzOf(BT709.white)), rgbToXyz(p))
const fromXyzD65 = (p: Primaries): Op => matrixOp(invert(toXyzD65(p)))
const toAp0 = (p: Primaries): Op => matrixOp(p === AP0 ? IDENTITY : rgbToRgb(p, AP0))

/** ACES2065-1 and XYZ under D65 to linear BT.709 light. */
export const AP0_TO_BT709 = matrixOp(rgbToRgb(AP0, BT709))
export const XYZ_TO_BT709_OP = matrixOp(invert(rgbToXyz(BT709)))

/** Light of a hundred cd/m2 as that of PQ. */
const HUNDREDTH = matrixOp([
  [0.01, 0, 0],
  [0, 0.01, 0],
  [0, 0, 0.01],
])
const HUNDRED = matrixOp([
  [100, 0, 0],
  [0, 100, 0],
  [0, 0, 100],
])
const FROM_PQ: readonly Op[] = [curve('pq'), HUNDREDTH]
const TO_PQ: readonly Op[] = [HUNDRED, curve('pq', true)]

/** Built-in steps of an OpenColorIO config that are open standards; those of makers are not here. */
export const BUILTINS: Readonly<Record<string, readonly Op[]>> = {
  IDENTITY: [],
  'UTILITY - ACES-AP0_to_CIE-XYZ-D65_BFD': [matrixOp(toXyzD65(AP0))],
  'UTILITY - ACES-AP1_to_CIE-XYZ-D65_BFD': [matrixOp(toXyzD65(AP1))],
  'UTILITY - ACES-AP1_to_LINEAR-REC709_BFD': [matrixOp(rgbToRgb(AP1, BT709))],
  'CURVE - ACEScct-LOG_to_LINEAR': [curve('acescct')],
  'ACEScct_to_ACES2065-1': [curve('acescct'), toAp0(AP1)],
  'ACEScc_to_ACES2065-1': [curve('acescc'), toAp0(AP1)],
  'ACEScg_to_ACES2065-1': [toAp0(AP1)],
  'ACESproxy10i_to_ACES2065-1': [curve('acesproxy'), toAp0(AP1)],
  'CURVE - ST-2084_to_LINEAR': FROM_PQ,
  'CURVE - LINEAR_to_ST-2084': TO_PQ,
  'DISPLAY - CIE-XYZ-D65_to_REC.1886-REC.709': [fromXyzD65(BT709), power(1 / 2.4)],
  'DISPLAY - CIE-XYZ-D65_to_REC.1886-REC.2020': [fromXyzD65(BT2020), power(1 / 2.4)],
  'DISPLAY - CIE-XYZ-D65_to_G2.2-REC.709': [fromXyzD65(BT709), power(1 / 2.2)],
  'DISPLAY - CIE-XYZ-D65_to_sRGB': [fromXyzD65(BT709), curve('srgb', true)],
  'DISPLAY - CIE-XYZ-D65_to_G2.6-P3-D65': [fromXyzD65(P3), power(1 / 2.6)],
  'DISPLAY - CIE-XYZ-D65_to_REC.2100-PQ': [fromXyzD65(BT2020), ...TO_PQ],
  'DISPLAY - CIE-XYZ-D65_to_ST2084-P3-D65': [fromXyzD65(P3), ...TO_PQ],
}
