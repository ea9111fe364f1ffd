import Type, { type Static } from 'typebox'
import { TONERS } from '../../film/toning'
import { emulsionFields } from '../emulsion'
import { choice, holdGreyToggle, number, percent, projectionFields, toggle } from '../fields'

const mix = (name: string, fallback: number) =>
  number(-100, 200, fallback, {
    title: `Mix, ${name}`,
    description: `Share of ${name} light in the free sensitivity.`,
    group: 'Sensitivity',
    unit: '%',
    step: 1,
  })
const toner = (n: number) =>
  choice(['none', ...TONERS], ['none', 'Sulphide (sepia)', 'Selenium', 'Gold', 'Iron blue', 'Copper'], 'none', {
    title: `Toner ${n}`,
    description: `Bath ${n}; each takes of the silver that the ones before left.`,
    group: 'Toning',
    first: n < 3,
  })
const complete = (n: number) =>
  percent(100, {
    title: `Toner ${n}, how far`,
    description: 'Share of the silver converted. Sulphide takes the light areas first, selenium the dense ones.',
    group: 'Toning',
    first: n === 1,
  })

export const MonoSettings = Type.Object(
  {
    sensitivity: choice(
      ['panchromatic', 'orthochromatic', 'blue', 'free'],
      ['Panchromatic', 'Orthochromatic', 'Blue-sensitive', 'Free mix'],
      'panchromatic',
      {
        title: 'Sensitivity',
        description: 'What the emulsion sees. Orthochromatic film is blind to red.',
        group: 'Sensitivity',
        first: true,
      },
    ),
    mixRed: mix('red', 30),
    mixGreen: mix('green', 50),
    mixBlue: mix('blue', 20),
    holdSum: toggle(true, {
      title: 'Hold the sum at 100 %',
      description: 'The free mix is scaled so that a neutral keeps its exposure.',
      group: 'Sensitivity',
    }),
    filter: choice(
      ['none', 'yellow', 'orange', 'red', 'green', 'blue'],
      ['none', 'Yellow', 'Orange', 'Red', 'Green', 'Blue'],
      'none',
      {
        title: 'Taking filter',
        description: 'A glass before the lens; its exposure is made good.',
        group: 'Sensitivity',
      },
    ),
    grade: number(0, 5, 2, {
      title: 'Grade',
      description: 'Contrast of the printing paper or stock; 2 is normal.',
      group: 'Print',
      step: 0.1,
      first: true,
    }),
    push: number(-2, 3, 0, {
      title: 'Push or pull',
      description: 'Development of the negative.',
      group: 'Print',
      unit: 'stop',
      step: 0.25,
    }),
    litho: percent(0, {
      title: 'Litho development',
      description: 'Exhausted developer: soft and warm in the lights, running away to black in the shadows.',
      group: 'Print',
    }),
    toner1: toner(1),
    far1: complete(1),
    toner2: toner(2),
    far2: complete(2),
    toner3: toner(3),
    far3: complete(3),
    toner4: toner(4),
    far4: complete(4),
    brown: number(-100, 100, 0, {
      title: 'Brown of sulphide',
      description: 'Alkali against thiourea in the toner: less makes a yellow brown, more a purple one.',
      group: 'Toning',
      step: 1,
    }),
    tint: choice(
      ['none', 'amber', 'rose', 'blue', 'green', 'lavender', 'straw', 'own'],
      ['none', 'Amber', 'Rose', 'Blue', 'Green', 'Lavender', 'Straw', 'Own hue'],
      'none',
      {
        title: 'Tint',
        description: 'A dyed base: colours the light areas, leaves black black.',
        group: 'Tint',
        first: true,
      },
    ),
    tintDensity: number(0, 2, 1, {
      title: 'Tint, strength',
      description: 'Density of the base dye, 1 as the historical bases.',
      group: 'Tint',
      step: 0.05,
    }),
    tintHue: number(0, 360, 40, {
      title: 'Tint, own hue',
      description: 'Hue of the own tint.',
      group: 'Tint',
      unit: '°',
      step: 1,
    }),
    holdGrey: holdGreyToggle('Print'),
    ...projectionFields(),
    ...emulsionFields(),
  },
  { additionalProperties: false },
)
export type MonoSettings = Static<typeof MonoSettings>
