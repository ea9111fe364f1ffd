import Type, { type Static } from 'typebox'
import { displayCode, displayLight } from '../../colour/transfer'
import { LIGHT } from '../../film/curve'
import { halation as ringOf, ringRadius } from '../../film/emulsion'
import { evenCurves, type Stage, type Tone } from '../../stages/stage'
import { disc, ring } from '../emblem'
import { emulsionFields, gaugeField, gaugeWidth } from '../emulsion'
import { halationView } from '../emulsion-views'
import { codeTone } from '../grading/codes'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const { halation: amount, baseThickness } = emulsionFields()
const group = 'Halation'

const HalationSettings = Type.Object(
  {
    halation: { ...amount, group, first: true, default: 150 },
    baseThickness: { ...baseThickness, group, first: true },
    gauge: gaugeField(group, true),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof HalationSettings>

const TO_LIGHT = codeTone('light of a code', displayLight)
const TO_CODE: Tone = { key: 'code of light', axis: LIGHT, f: displayCode }

function stages(s: Settings): Stage[] {
  if (s.halation === 0) return []
  const radius = (1000 * ringRadius(1000 * s.baseThickness)) / gaugeWidth(s.gauge)
  return [
    evenCurves(TO_LIGHT),
    { at: 'space', space: { kind: 'spread', spread: ringOf(s.halation / 100, radius) } },
    evenCurves(TO_CODE),
  ]
}

/** Light sent back by the base, for pictures that have no film. */
export const halation = defineKind({
  id: 'halation',
  label: 'Halation',
  short: 'Halation',
  family: { name: TEXTURE, emblem: [disc(8, 8, 1.6), ring(8, 8, 4), ring(8, 8, 6.2)] },
  stretch: 'finish',
  summary: 'A red ring around what is bright: light that the base of a film sends back.',
  notes: {
    about:
      'Halation on the light of the shown picture, whose lights are cut off; in a process it sees all of the scene’s.',
    model:
      'The ring of model and settings as in the processes: radius twice the base’s thickness times the tangent of the critical angle (n = 1.5), as the difference of two Gaussians; 8, 2 and 0.4 % of red, green and blue at 100 % (from memory).',
  },
  schema: HalationSettings,
  takes: 'line',
  stages,
  idle: (s: Settings) => (s.halation === 0 ? 'its halation is 0 %' : null),
  views: (s) => [halationView(s)],
})
