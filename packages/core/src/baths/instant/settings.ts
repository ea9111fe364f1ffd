import Type, { type Static } from 'typebox'
import { emulsionFields, grainColourField, granularity, roughnessField } from '../emulsion'
import { holdGreyToggle, number, percent, toggle } from '../fields'

/** Light in the film, as in other stocks. */
const { halation, baseThickness, exposureTime } = emulsionFields()

export const InstantSettings = Type.Object(
  {
    temperature: number(0, 40, 21, {
      title: 'Temperature',
      description: 'While it develops. Cold stays thin and blue, warm goes dense and yellow-red.',
      group: 'Development',
      unit: '°C',
      step: 0.5,
      first: true,
    }),
    time: number(50, 150, 100, {
      title: 'Development time',
      description: 'In per cent of what the pack says. Short stays thin, long goes dense.',
      group: 'Development',
      unit: '%',
      step: 1,
      first: true,
    }),
    mixing: percent(
      12,
      {
        title: 'Layers see each other',
        description: 'How much the records mix: more greys the colours.',
        group: 'Development',
        first: true,
      },
      150,
    ),
    contrast: number(60, 150, 125, {
      title: 'Contrast',
      description: 'Slope of all layers.',
      group: 'Development',
      unit: '%',
      step: 1,
    }),
    warmBase: number(0, 0.2, 0.03, {
      title: 'Warm base',
      description: 'Yellowish density of the white.',
      group: 'Print',
      step: 0.005,
    }),
    surfaceFlare: number(0, 5, 1.2, {
      title: 'Surface flare',
      description: 'Light mirrored by the card’s surface, in per cent of white.',
      group: 'Print',
      unit: '%',
      step: 0.1,
      first: true,
    }),
    softness: number(0, 4, 0.7, {
      title: 'Softness',
      description: 'Spread of the dyes on their way to the receiving layer, in per mille of the width.',
      group: 'Lens and spread',
      unit: '‰',
      step: 0.05,
    }),
    falloff: percent(
      22,
      { title: 'Falloff', description: 'How much less light the corners get.', group: 'Lens and spread', first: true },
      80,
    ),
    uneven: percent(6, {
      title: 'Uneven spread',
      description: 'Streaks and clouds where the paste lies thicker or thinner.',
      group: 'Lens and spread',
    }),
    seed: number(0, 9999, 7, {
      title: 'Spread, seed',
      description: 'Another number, another spread.',
      group: 'Lens and spread',
      step: 1,
    }),
    card: toggle(false, {
      title: 'Card frame',
      description: 'A square picture on its white card, the lower margin wide.',
      group: 'Print',
    }),
    holdGrey: holdGreyToggle('Development'),
    grain: granularity('Grain', 'RMS granularity of the print, as of other stocks; it is fine.', 'Lens and spread'),
    roughness: roughnessField('Lens and spread', 8),
    grainColour: grainColourField('Lens and spread'),
    halation,
    baseThickness,
    exposureTime,
  },
  { additionalProperties: false },
)
export type InstantSettings = Static<typeof InstantSettings>
