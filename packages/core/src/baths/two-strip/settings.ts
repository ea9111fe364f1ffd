import Type, { type Static } from 'typebox'
import { emulsionFields } from '../emulsion'
import { choice, holdGreyToggle, number, percent, projectionFields } from '../fields'

const percentAround = (title: string, description: string, first = false) =>
  number(50, 150, 100, { title, description, group: 'Records', unit: '%', step: 1, first })

export const TwoStripSettings = Type.Object(
  {
    assembly: choice(['dyes', 'projected'], ['Two dyes on one film', 'Two pictures projected together'], 'dyes', {
      title: 'Assembly',
      description:
        'Blue-green and orange-red dye one over the other, or both records projected through red and green light.',
      group: 'Records',
      first: true,
    }),
    contrastRed: percentAround(
      'Contrast, red record',
      'Slope of the red record’s print. More sets warm and cold further apart.',
      true,
    ),
    contrastGreen: percentAround('Contrast, green record', 'Slope of the green record’s print.', true),
    balance: number(-50, 50, 0, {
      title: 'Dye balance',
      description: 'Away from the most neutral grey: orange-red (above 0) or blue-green (below 0).',
      group: 'Dyes',
      step: 1,
      first: true,
    }),
    density: number(60, 140, 100, {
      title: 'Dye amount',
      description: 'How much dye both prints take up.',
      group: 'Dyes',
      unit: '%',
      step: 1,
    }),
    blueRecovery: percent(0, {
      title: 'Blue recovery',
      description:
        'Lends what is blue the blue that two records cannot hold, from a blue record. Skin and all that is warm stay.',
      group: 'Dyes',
      first: true,
    }),
    holdGrey: holdGreyToggle('Records'),
    ...projectionFields(),
    ...emulsionFields(),
  },
  { additionalProperties: false },
)
export type TwoStripSettings = Static<typeof TwoStripSettings>
