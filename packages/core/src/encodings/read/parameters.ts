import Type, { type Static, type TSchema } from 'typebox'
import { CAT02, BRADFORD, BT709, rgbToRgb, type Primaries } from '../../colour/spaces'
import { FogBathError } from '../../errors'
import { same, type Op } from '../ops/op'
import { defineEncoding, EncodingDefinitionSchema, type EncodingDefinition } from '../own'
import { matrixOp } from './builtin'

const number = (description: string, least = -1e6, most = 1e6) =>
  Type.Number({ minimum: least, maximum: most, description })
const xy = Type.Tuple([number('x', -1, 2), number('y', -1, 2)])

/** Curves by their numbers: the camera form of the Common LUT Format's Log (section 4.6), a power, or none. */
const CURVES = {
  log: Type.Object(
    {
      type: Type.Literal('log'),
      base: number('Base of the logarithm.', 1.001, 1000),
      logSideSlope: number('Slope on the log side.'),
      logSideOffset: number('Offset on the log side.'),
      linSideSlope: number('Slope on the linear side.'),
      linSideOffset: number('Offset on the linear side.'),
      linSideBreak: Type.Optional(number('Light below which it is straight; without it there is no straight piece.')),
      linearSlope: Type.Optional(number('Slope of the straight piece; without it that of the curve at the break.')),
    },
    { additionalProperties: false },
  ),
  gamma: Type.Object(
    { type: Type.Literal('gamma'), gamma: number('Light is the code to this power.', 0.1, 10) },
    { additionalProperties: false },
  ),
  linear: Type.Object({ type: Type.Literal('linear') }, { additionalProperties: false }),
}
type CurveType = keyof typeof CURVES
export const CURVE_TYPES = Object.keys(CURVES) as readonly CurveType[]

const parameters = <C extends TSchema>(curve: C) =>
  Type.Object(
    {
      name: EncodingDefinitionSchema.properties.name,
      refers: EncodingDefinitionSchema.properties.refers,
      curve,
      primaries: Type.Object({ red: xy, green: xy, blue: xy, white: xy }, { additionalProperties: false }),
      adaptation: Type.Optional(Type.Unsafe<'bradford' | 'cat02'>({ type: 'string', enum: ['bradford', 'cat02'] })),
    },
    { additionalProperties: false },
  )
/** An encoding by parameters, as a file or a form has it; by the type of its curve, so that faults are told of that one. */
export const EncodingParametersSchemas = {
  log: parameters(CURVES.log),
  gamma: parameters(CURVES.gamma),
  linear: parameters(CURVES.linear),
} as const
export type EncodingParameters = Static<(typeof EncodingParametersSchemas)[CurveType]>

function curveOps(curve: EncodingParameters['curve']): readonly Op[] {
  if (curve.type === 'linear') return []
  if (curve.type === 'gamma') return [{ op: 'exponent', below: 'mirror', power: same(curve.gamma) }]
  const { base, logSideSlope, logSideOffset, linSideSlope, linSideOffset, linSideBreak, linearSlope } = curve
  for (const [name, value] of Object.entries({
    logSideSlope,
    linSideSlope,
    ...(linearSlope !== undefined && { linearSlope }),
  }))
    if (value === 0) throw new FogBathError('encoding', name, `${name} is 0; a curve needs a slope.`)
  if (linSideBreak !== undefined && linSideSlope * linSideBreak + linSideOffset <= 0)
    throw new FogBathError(
      'encoding',
      'linSideBreak',
      `linSideBreak is ${linSideBreak}; linSideSlope times it plus linSideOffset must be above 0.`,
    )
  return [
    {
      op: 'log',
      back: true,
      base,
      logSlope: same(logSideSlope),
      logOffset: same(logSideOffset),
      linSlope: same(linSideSlope),
      linOffset: same(linSideOffset),
      linBreak: linSideBreak === undefined ? null : same(linSideBreak),
      linearSlope: linearSlope === undefined ? null : same(linearSlope),
    },
  ]
}

/** Throws naming the chromaticities that make no triangle. */
function matrixOf(primaries: Primaries, adaptation: 'bradford' | 'cat02'): readonly Op[] {
  try {
    const matrix = rgbToRgb(primaries, BT709, adaptation === 'cat02' ? CAT02 : BRADFORD)
    if (!matrix.flat().every(Number.isFinite)) throw new Error()
    return [matrixOp(matrix)]
  } catch {
    throw new FogBathError(
      'encoding',
      'primaries',
      `The chromaticities ${JSON.stringify(primaries)} span no triangle about a white.`,
    )
  }
}

/** An encoding by its parameters. Throws naming the parameter that cannot be. */
export function encodingOfParameters({
  name,
  refers,
  curve,
  primaries,
  adaptation = 'bradford',
}: EncodingParameters): EncodingDefinition {
  const ops = [...curveOps(curve), ...matrixOf(primaries, adaptation)]
  const how = { log: 'a log curve', gamma: 'a power', linear: 'no curve' }[curve.type]
  return defineEncoding({ name, refers, from: `By its parameters: ${how}, primaries of its own.`, ops })
}
