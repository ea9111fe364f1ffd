import Type, { type Static, type TObject, type TSchema } from 'typebox'
import { choice, number, toggle } from '../baths/fields'

/** Most points in one outline and colours in one selection. */
export const MOST_POINTS = 60
export const MOST_PICKS = 24

export const GROUP = { group: 'Mask', first: true } as const
const place = (axis: 'across' | 'down', fallback: number, title: string) =>
  number(-50, 150, fallback, {
    title,
    description: `In per cent of the picture’s ${axis === 'across' ? 'width, from the left' : 'height, from the top'}.`,
    unit: '%',
    step: 0.5,
    ...GROUP,
  })
const extent = (fallback: number, title: string) =>
  number(0.5, 200, fallback, {
    title,
    description: 'From edge to edge, in per cent of the picture’s width.',
    unit: '%',
    step: 0.5,
    ...GROUP,
  })
const turn = number(-180, 180, 0, {
  title: 'Turned',
  description: 'Clockwise, in degrees.',
  unit: '°',
  step: 1,
  ...GROUP,
})
const edge = number(0, 60, 8, {
  title: 'Soft edge',
  description: 'Width of the fall from all to nothing, in per cent of the picture’s width; the outline is its middle.',
  unit: '%',
  step: 0.5,
  ...GROUP,
})

export const closed = <T extends Record<string, TSchema>>(fields: T) =>
  Type.Object(fields, { additionalProperties: false })

const box = () => ({
  x: place('across', 50, 'Centre across'),
  y: place('down', 50, 'Centre down'),
  width: extent(40, 'Width'),
  height: extent(30, 'Height'),
  turn,
  edge,
})

const gradient = closed({
  x0: place('across', 50, 'From, across'),
  y0: place('down', 20, 'From, down'),
  x1: place('across', 50, 'To, across'),
  y1: place('down', 70, 'To, down'),
})

const outline = closed({
  points: Type.Array(Type.Array(Type.Number({ minimum: -50, maximum: 150 }), { minItems: 2, maxItems: 2 }), {
    minItems: 3,
    maxItems: MOST_POINTS,
    default: [
      [35, 30],
      [65, 30],
      [65, 70],
      [35, 70],
    ],
    title: 'Points',
    description: 'Corners one after the other: across and down, in per cent of the picture’s width and height.',
    group: 'Mask',
  }),
  round: toggle(true, { title: 'Rounded', description: 'A curve through the points, not straight lines.', ...GROUP }),
  edge,
})

const level = (fallback: number, title: string) =>
  number(0, 100, fallback, {
    title,
    description: 'Code value of the picture that the mask reads, in per cent.',
    unit: '%',
    step: 0.5,
    ...GROUP,
  })
const tone = closed({
  channel: choice(['luma', 'red', 'green', 'blue'], ['Brightness', 'Red', 'Green', 'Blue'], 'luma', {
    title: 'Of',
    description: 'What of the picture is measured.',
    ...GROUP,
  }),
  from: level(60, 'From'),
  to: level(100, 'To'),
  soft: number(0, 60, 10, {
    title: 'Soft',
    description: 'How far outside the range the mask still falls off, in per cent of code value.',
    unit: '%',
    step: 0.5,
    ...GROUP,
  }),
})

const colours = (title: string, description: string) =>
  Type.Array(Type.Array(Type.Number({ minimum: -200, maximum: 200 }), { minItems: 3, maxItems: 3 }), {
    minItems: 0,
    maxItems: MOST_PICKS,
    default: [],
    title,
    description,
    group: 'Mask',
  })

const colour = closed({
  picks: colours('Colours', 'Picked colours: CIE L*, a*, b* under D65.'),
  without: colours('Without', 'Colours that do not belong to it, likewise.'),
  range: number(0, 80, 15, {
    title: 'Range',
    description: 'Colours this near to a picked one belong to it, in steps of CIE L*a*b*.',
    step: 0.5,
    ...GROUP,
  }),
  soft: number(0, 80, 15, {
    title: 'Soft',
    description: 'How far outside the range the mask still falls off.',
    step: 0.5,
    ...GROUP,
  }),
  lightness: number(0, 100, 30, {
    title: 'Lightness counts',
    description: 'How much a difference in lightness counts beside one in colour.',
    unit: '%',
    step: 1,
    ...GROUP,
  }),
})

/** From, to and soft ends of one side of a colour. @param most its greatest value */
const side = (
  name: string,
  most: number,
  unit: string,
  [from, to, soft]: readonly [number, number, number],
  what: string,
) => {
  const about = { unit, step: most > 100 ? 1 : 0.5, group: 'Mask' }
  return {
    [`${name}From`]: number(0, most, from, {
      title: `${what}, from`,
      description: `Least ${what.toLowerCase()} that belongs to it.`,
      ...about,
    }),
    [`${name}To`]: number(0, most, to, {
      title: `${what}, to`,
      description: `Greatest ${what.toLowerCase()} that belongs to it.`,
      ...about,
    }),
    [`${name}Soft`]: number(0, most / 2, soft, {
      title: `${what}, soft`,
      description: 'How far outside it still falls off.',
      ...about,
    }),
  }
}

const range = closed({
  ...side('hue', 360, '°', [0, 360, 15], 'Hue'),
  ...side('chroma', 140, '', [0, 140, 8], 'Chroma'),
  ...side('light', 100, '%', [0, 100, 8], 'Lightness'),
} as Record<RangeName, ReturnType<typeof number>>)
type RangeName = `${'hue' | 'chroma' | 'light'}${'From' | 'To' | 'Soft'}`

/** What a mask can be put together from. */
export const PART_SCHEMAS = {
  ellipse: closed(box()),
  rectangle: closed(box()),
  gradient,
  outline,
  tone,
  colour,
  range,
} as const satisfies Record<string, TObject>
export const PART_TYPES = Object.keys(PART_SCHEMAS) as PartType[]
export type PartType = keyof typeof PART_SCHEMAS
export type PartSettings = { readonly [T in PartType]: Readonly<Static<(typeof PART_SCHEMAS)[T]>> }
