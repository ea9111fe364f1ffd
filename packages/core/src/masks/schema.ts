import Type, { type Static, type TObject, type TSchema } from 'typebox'
import { choice, number, toggle } from '../baths/fields'

/** Most parts in one mask, points in one outline and colours in one selection. */
export const MOST_PARTS = 12
export const MOST_POINTS = 60
export const MOST_PICKS = 8

const GROUP = { group: 'Mask', first: true } as const
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

const closed = <T extends Record<string, TSchema>>(fields: T) => Type.Object(fields, { additionalProperties: false })

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

const colour = closed({
  picks: Type.Array(Type.Array(Type.Number({ minimum: -200, maximum: 200 }), { minItems: 3, maxItems: 3 }), {
    minItems: 0,
    maxItems: MOST_PICKS,
    default: [],
    title: 'Colours',
    description: 'Picked colours: CIE L*, a*, b* under D65.',
    group: 'Mask',
  }),
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

/** What a mask can be put together from. */
export const PART_SCHEMAS = {
  ellipse: closed(box()),
  rectangle: closed(box()),
  gradient,
  outline,
  tone,
  colour,
} as const satisfies Record<string, TObject>
export const PART_TYPES = Object.keys(PART_SCHEMAS) as PartType[]
export type PartType = keyof typeof PART_SCHEMAS
export type PartSettings = { readonly [T in PartType]: Readonly<Static<(typeof PART_SCHEMAS)[T]>> }

/** How a part joins those before it. */
export const JOINS = ['add', 'subtract', 'intersect'] as const
export type Join = (typeof JOINS)[number]

export type MaskPart = {
  [T in PartType]: {
    readonly type: T
    readonly join: Join
    /** Everything but the part. */
    readonly invert: boolean
    readonly settings: PartSettings[T]
  }
}[PartType]

/** What of the whole mask is set, beside its parts. */
export const maskFields = {
  reads: choice(['footage', 'line'], ['the footage', 'the line so far'], 'footage', {
    title: 'Reads',
    description: 'The picture whose tones and colours are selected: the untreated footage, or what enters this bath.',
    ...GROUP,
  }),
  grow: number(-5, 5, 0, {
    title: 'Grow or shrink',
    description: 'Moves the mask’s edge outwards (above 0) or inwards, in per cent of the picture’s width.',
    unit: '%',
    step: 0.05,
    ...GROUP,
  }),
  soften: number(0, 50, 0, {
    title: 'Soften',
    description: 'Gaussian blur of the mask: its standard deviation in per mille of the picture’s width.',
    unit: '‰',
    step: 0.5,
    ...GROUP,
  }),
  invert: toggle(false, {
    title: 'Invert',
    description: 'The opposite: where the mask was nothing it is all.',
    ...GROUP,
  }),
}

const partShape = {
  type: Type.Unsafe<PartType>({ type: 'string', enum: PART_TYPES }),
  join: Type.Unsafe<Join>({ type: 'string', enum: [...JOINS], default: 'add' }),
  invert: Type.Boolean({ default: false }),
  settings: Type.Unsafe<Record<string, unknown>>({ type: 'object' }),
}

/** A mask, or null for none. The settings of a part depend on its type: one if/then rule each, as for baths. */
export const MaskSchema = {
  ...closed({
    parts: Type.Array(
      {
        ...closed(partShape),
        allOf: PART_TYPES.map((type) => ({
          if: { type: 'object', required: ['type'], properties: { type: { const: type } } },
          then: { type: 'object', properties: { settings: PART_SCHEMAS[type] } },
        })),
      },
      { minItems: 1, maxItems: MOST_PARTS },
    ),
    ...maskFields,
  }),
  nullable: true,
  default: null,
} as unknown as TSchema

export interface Mask {
  readonly parts: readonly MaskPart[]
  /** Whose tones and colours are selected. */
  readonly reads: 'footage' | 'line'
  /** In per cent of the width; negative shrinks. */
  readonly grow: number
  /** Standard deviation of a blur, per mille of the width. */
  readonly soften: number
  readonly invert: boolean
}
