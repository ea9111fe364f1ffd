import Type, { type Static } from 'typebox'
import { CAMERA_NEGATIVE, COLOUR_PRINT, PUSH_RANGE } from '../../film/curve'
import { CALLIER } from '../../film/silver'
import { emulsionFields } from '../emulsion'
import { holdGreyToggle, number, percent, printerLight, projectionFields, toggle } from '../fields'

const curveField = (
  low: number,
  high: number,
  fallback: number,
  title: string,
  description: string,
  group: string,
): ReturnType<typeof number> => number(low, high, fallback, { title, description, group, step: 0.01 })

export const ColourPrintSettings = Type.Object(
  {
    bleachNegative: percent(100, {
      title: 'Bleach, negative',
      description:
        'How much of the negative’s silver the bleach takes away. Less leaves silver over the dyes: harder, greyer.',
      group: 'Silver',
      first: true,
    }),
    bleachIntermediate: percent(100, {
      title: 'Bleach, intermediate',
      description: 'The same for an intermediate; below 100 % the intermediate stage is used.',
      group: 'Silver',
    }),
    bleachPrint: percent(100, {
      title: 'Bleach, print',
      description:
        'How much of the print’s silver the bleach takes away. Less deepens the blacks and thins the colour.',
      group: 'Silver',
      first: true,
    }),
    push: number(PUSH_RANGE[0], PUSH_RANGE[1], 0, {
      title: 'Push or pull',
      description: 'Longer or shorter development of the negative. Pushing raises contrast and sets the layers apart.',
      group: 'Development',
      unit: 'stop',
      step: 0.25,
      first: true,
    }),
    flashNegative: number(0, 10, 0, {
      title: 'Flash, negative',
      description: 'An even exposure before development, in per cent of mid grey. Lifts and softens the shadows.',
      group: 'Development',
      unit: '%',
      step: 0.1,
    }),
    flashPrint: number(0, 40, 0, {
      title: 'Flash, print',
      description:
        'An even exposure of the print, in per cent of its mid grey exposure. Veils and softens the highlights.',
      group: 'Development',
      unit: '%',
      step: 0.5,
    }),
    interImage: percent(
      100,
      {
        title: 'Inter-image effect',
        description: 'How strongly the layers hold each other back. More gives purer colour; neutrals stay.',
        group: 'Development',
      },
      150,
    ),
    intermediate: toggle(false, {
      title: 'Intermediate stage',
      description: 'Print through a duplicate negative, which rounds off both ends of the scale.',
      group: 'Printer',
    }),
    lightRed: printerLight('red'),
    lightGreen: printerLight('green'),
    lightBlue: printerLight('blue'),
    holdGrey: holdGreyToggle('Printer', {
      description: 'Time the print so that 18 % grey prints to 18 % of white; the printer lights then work on top.',
    }),
    silverTimed: percent(100, {
      title: 'Timed for silver',
      description:
        'How far the print is made lighter to make up for the silver that is kept in it. Less: darker by up to half a stop, and warm colours keep their hue.',
      group: 'Printer',
      only: { setting: 'holdGrey', is: true },
    }),
    negativeGamma: curveField(
      0.3,
      1.2,
      CAMERA_NEGATIVE.gamma,
      'Negative, gamma',
      'Slope of the straight part.',
      'Curves',
    ),
    negativeStart: curveField(
      -3,
      -0.5,
      CAMERA_NEGATIVE.start,
      'Negative, start',
      'Where the straight part starts, log exposure from mid grey.',
      'Curves',
    ),
    negativeEnd: curveField(
      0.5,
      3,
      CAMERA_NEGATIVE.end,
      'Negative, end',
      'Where the shoulder begins, log exposure from mid grey.',
      'Curves',
    ),
    printGamma: curveField(1.5, 5, COLOUR_PRINT.gamma, 'Print, gamma', 'Slope of the straight part.', 'Curves'),
    printEnd: curveField(
      0.3,
      1.5,
      COLOUR_PRINT.end,
      'Print, end',
      'Where the print’s shoulder begins; sets its deepest black.',
      'Curves',
    ),
    callier: number(1, 1.5, CALLIER, {
      title: 'Callier factor',
      description: 'How much denser kept silver is in a projector’s beam than in diffuse light. 1 is a contact print.',
      group: 'Projection',
      step: 0.01,
    }),
    ...projectionFields(),
    ...emulsionFields(),
  },
  { additionalProperties: false },
)
export type ColourPrintSettings = Static<typeof ColourPrintSettings>
