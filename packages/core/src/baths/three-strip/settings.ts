import Type, { type Static } from 'typebox'
import { emulsionFields } from '../emulsion'
import { LAY_MODES, layName } from '../../lay/blend'
import { choice, holdGreyToggle, number, percent, projectionFields } from '../fields'

const contrast = (dye: string) =>
  number(60, 150, 100, {
    title: `Contrast, ${dye}`,
    description: `Slope of the ${dye} matrix.`,
    group: 'Matrices',
    unit: '%',
    step: 1,
  })
const amount = (dye: string) =>
  number(50, 150, 100, {
    title: `Amount, ${dye}`,
    description: `How much ${dye} dye the blank takes up.`,
    group: 'Dyes',
    unit: '%',
    step: 1,
    first: true,
  })
const laid = (record: string, dye: string) =>
  choice(['dye', ...LAY_MODES], ['In dye, over the others', ...LAY_MODES.map(layName)], 'dye', {
    title: `Lay, ${record}`,
    description: `How the ${record} record’s print goes on the others: in ${dye} dye, as a laboratory does it, or as a picture of its own.`,
    group: 'Prints',
  })
const strength = (record: string) =>
  percent(100, {
    title: `Strength, ${record}`,
    description: `How strongly the ${record} record’s print is laid; of dye, so much of its amount.`,
    group: 'Prints',
  })
const bleed = (dye: string) =>
  number(0, 3, 0.25, {
    title: `Bleed, ${dye}`,
    description: `Softness of the ${dye} image, in per mille of the picture’s width.`,
    group: 'Dyes',
    unit: '‰',
    step: 0.05,
  })
const shift = (record: string, axis: 'across' | 'down') =>
  number(-10, 10, 0, {
    title: `Shift ${axis}, ${record}`,
    description: `The ${record} record’s place, in per mille of the picture’s width.`,
    group: 'Registration',
    unit: '‰',
    step: 0.05,
  })
const turn = (record: string) =>
  number(-1, 1, 0, {
    title: `Turn, ${record}`,
    description: `The ${record} record’s rotation.`,
    group: 'Registration',
    unit: '°',
    step: 0.01,
  })

export const ThreeStripSettings = Type.Object(
  {
    show: choice(
      ['print', 'red', 'green', 'blue'],
      ['The print', 'Red separation', 'Green separation', 'Blue separation'],
      'print',
      {
        title: 'Show',
        description: 'The print, or one separation in black and white.',
        group: 'Matrices',
        first: true,
      },
    ),
    amountCyan: amount('cyan'),
    amountMagenta: amount('magenta'),
    amountYellow: amount('yellow'),
    key: percent(
      12,
      {
        title: 'Key image',
        description: 'A weak silver image of the green record under the dyes: firmer blacks, calmer colour.',
        group: 'Dyes',
        first: true,
      },
      50,
    ),
    contrastCyan: contrast('cyan'),
    contrastMagenta: contrast('magenta'),
    contrastYellow: contrast('yellow'),
    interImage: percent(
      100,
      {
        title: 'Inter-image effect',
        description: 'How strongly the records are purified of each other.',
        group: 'Matrices',
      },
      150,
    ),
    layRed: laid('red', 'cyan'),
    strengthRed: strength('red'),
    layGreen: laid('green', 'magenta'),
    strengthGreen: strength('green'),
    layBlue: laid('blue', 'yellow'),
    strengthBlue: strength('blue'),
    bleedCyan: bleed('cyan'),
    bleedMagenta: bleed('magenta'),
    bleedYellow: bleed('yellow'),
    acrossRed: shift('red', 'across'),
    downRed: shift('red', 'down'),
    turnRed: turn('red'),
    acrossGreen: shift('green', 'across'),
    downGreen: shift('green', 'down'),
    turnGreen: turn('green'),
    acrossBlue: shift('blue', 'across'),
    downBlue: shift('blue', 'down'),
    turnBlue: turn('blue'),
    holdGrey: holdGreyToggle('Matrices'),
    ...projectionFields(),
    ...emulsionFields(),
  },
  { additionalProperties: false },
)
export type ThreeStripSettings = Static<typeof ThreeStripSettings>
