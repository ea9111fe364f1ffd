import Type, { type Static } from 'typebox'
import { diagonal } from '../../colour/matrix'
import { mix } from '../../stages/stage'
import { LIGHT } from '../grading/families'
import { number, printerLight } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'

const LightsSettings = Type.Object(
  {
    lightRed: printerLight('red'),
    lightGreen: printerLight('green'),
    lightBlue: printerLight('blue'),
    master: number(-25, 25, 0, {
      title: 'All lights',
      description: 'Points on all three: more light on the print darkens it.',
      group: 'Printer',
      unit: 'pt',
      step: 0.5,
      first: true,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof LightsSettings>

/** A point is 1/12 of a stop of exposure; 25 is neutral (common practice). */
const gain = (light: number, master: number): number => 2 ** ((25 - light - master) / 12)

/** Printer lights before any process: a scene timed as a print is. */
export const printerLights = defineKind({
  id: 'printer-lights',
  label: 'Printer lights',
  short: 'Printer lights',
  family: { name: LIGHT, emblem: [stroke('M4 13V6'), stroke('M8 13V3'), stroke('M12 13V8')] },
  stretch: 'prepare',
  summary: 'Red, green and blue in printer points, and all together: the timing of a shot.',
  notes: {
    recipe: 'cold-shadows',
    about: 'A shot timed in points.',
    model:
      'Scene light times 2^((25 - light - all) / 12): twelve points are a stop, and more light darkens, as on a printer (common practice).',
  },
  schema: LightsSettings,
  takes: 'camera',
  sample: { lightRed: 22, lightBlue: 29 },
  stages: (s: Settings) => [
    mix(diagonal([gain(s.lightRed, s.master), gain(s.lightGreen, s.master), gain(s.lightBlue, s.master)])),
  ],
  idle: (s: Settings) =>
    s.master === 0 && s.lightRed === 25 && s.lightGreen === 25 && s.lightBlue === 25 ? 'all lights are neutral' : null,
  views: () => [],
})
