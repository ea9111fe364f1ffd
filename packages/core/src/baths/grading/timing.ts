import Type, { type Static } from 'typebox'
import { diagonal, multiply, matrix, triple } from '../../colour/matrix'
import { LUMA_709 } from '../../colour/spaces'
import { displayCode, displayLight } from '../../colour/transfer'
import { evenCurves, mix, type Axis, type PointStage } from '../../stages/stage'
import { lightPoints, number } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { codeTone } from './codes'
import { LIGHT } from './families'

const TimingSettings = Type.Object(
  {
    exposure: number(-4, 4, 0, {
      title: 'Exposure',
      description: 'In stops of light on the screen.',
      group: 'Light',
      unit: 'stop',
      step: 0.05,
      first: true,
    }),
    lightRed: lightPoints('red', 'screen', true),
    lightGreen: lightPoints('green', 'screen', true),
    lightBlue: lightPoints('blue', 'screen', true),
    saturation: number(0, 200, 100, {
      title: 'Saturation',
      description: 'How far colours are from grey of the same luminance.',
      group: 'Light',
      unit: '%',
      step: 1,
      first: true,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof TimingSettings>

const idle = ({ exposure, lightRed, lightGreen, lightBlue, saturation }: Settings): string | null =>
  saturation === 100 && [exposure, lightRed, lightGreen, lightBlue].every((v) => v === 0) ? 'nothing is set' : null

const DECODED = codeTone('decoded', displayLight)
const LIGHT_AXIS: Axis = { nodes: 'octaves', from: -24, to: 6 }

function stages(s: Settings): PointStage[] {
  if (idle(s)) return []
  const gain = (light: number): number => 2 ** (s.exposure + light / 12)
  const share = s.saturation / 100
  // Greys stay where they are: each row keeps what luminance takes.
  const drained = matrix([0, 1, 2].map((k) => LUMA_709.map((w, j) => (1 - share) * w + (j === k ? share : 0))))
  const gains = diagonal(triple([s.lightRed, s.lightGreen, s.lightBlue].map(gain)))
  return [
    evenCurves(DECODED),
    mix(multiply(drained, gains)),
    evenCurves({ key: 'encoded', axis: LIGHT_AXIS, f: displayCode }),
  ]
}

/** The last correction of one shot, as light on the screen. */
export const timing = defineKind({
  id: 'timing',
  label: 'Timing',
  short: 'Timing',
  family: { name: LIGHT, emblem: [stroke('M3 13V9h3v4M7 13V5h3v8M11 13V7h3v6'), stroke('M2 2.5h12')] },
  stretch: 'finish',
  summary:
    'Exposure, red, green and blue in points, and saturation, as light on the screen: one shot brought to its neighbours.',
  notes: {
    about: 'The last correction of a shot, behind a look that others share.',
    model:
      'Code values to light (BT.1886), times 2^(exposure + points / 12), mixed with their luminance (BT.709) by the saturation, and back.',
  },
  schema: TimingSettings,
  takes: 'line',
  sample: { exposure: 0.3, lightRed: 2, lightBlue: -3, saturation: 90 },
  stages,
  idle,
  views: () => [],
})
