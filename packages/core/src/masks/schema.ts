import Type, { type TSchema } from 'typebox'
import { choice, number, toggle } from '../baths/fields'
import { laneSchema, type Lane } from '../keys/schema'
import type { Warp } from '../numbers/warp'
import { GROUP, PART_SCHEMAS, PART_TYPES, closed, type PartSettings, type PartType } from './parts'

/** Most parts in one mask. */
export const MOST_PARTS = 12

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
    /** Id of the track of its shot that it follows; shots without that track show it as it is drawn. */
    readonly follows?: string
    /** Its settings over the shot, on top of the track. */
    readonly moves?: Lane<PartSettings[T]>
    /** Never kept: from where it is drawn to where it is in the frame at hand, in per cent of width and height. */
    readonly warp?: Warp
  }
}[PartType]

/** What of the whole mask is set, beside its parts. */
export const maskFields = {
  reads: choice(['footage', 'line'], ['the footage', 'the line so far'], 'footage', {
    title: 'Reads',
    description: 'The picture whose tones and colours are selected: the untreated footage, or what enters this bath.',
    ...GROUP,
  }),
  black: number(0, 99, 0, {
    title: 'Nothing below',
    description: 'What of the mask is weaker than this becomes nothing.',
    unit: '%',
    step: 1,
    ...GROUP,
  }),
  white: number(1, 100, 100, {
    title: 'All above',
    description: 'What of the mask is stronger than this becomes all.',
    unit: '%',
    step: 1,
    ...GROUP,
  }),
  specks: number(0, 20, 0, {
    title: 'Without specks',
    description: 'Specks and holes that are narrower than this go, in per mille of the picture’s width.',
    unit: '‰',
    step: 0.5,
    ...GROUP,
  }),
  hold: number(0, 50, 0, {
    title: 'Hold to edges',
    description:
      'Draws the mask’s edge to that of what is seen near it: how far it looks, in per mille of the picture’s width.',
    unit: '‰',
    step: 1,
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
  follows: Type.Optional(Type.String({ pattern: '^[a-z0-9]{8,32}$' })),
  moves: Type.Optional(laneSchema()),
}

const settingsOf = (type: PartType) => ({
  type: 'object',
  properties: { settings: PART_SCHEMAS[type], moves: laneSchema(PART_SCHEMAS[type]) },
})

/** The settings of a part depend on its type: one if/then rule each, as for baths. */
export const MaskPartSchema = {
  ...closed(partShape),
  allOf: PART_TYPES.map((type) => ({
    if: { type: 'object', required: ['type'], properties: { type: { const: type } } },
    then: settingsOf(type),
  })),
} as unknown as TSchema

/** A mask, or null for none. */
export const MaskSchema = {
  ...closed({
    parts: Type.Array(MaskPartSchema, { minItems: 1, maxItems: MOST_PARTS }),
    ...maskFields,
    link: Type.Optional(
      closed({
        id: Type.String({
          pattern: '^[a-z0-9]{8,32}$',
          description: 'Masks with the same id are one: a change of one changes all.',
        }),
        opposite: Type.Boolean({ description: 'It stands for the opposite of that one.' }),
      }),
    ),
  }),
  nullable: true,
  default: null,
} as unknown as TSchema

export interface Mask {
  readonly parts: readonly MaskPart[]
  /** Whose tones and colours are selected. */
  readonly reads: 'footage' | 'line'
  /** What is below is nothing, what is above is all, per cent. */
  readonly black: number
  readonly white: number
  /** Specks and holes narrower than this go, per mille of the width. */
  readonly specks: number
  /** How far it is drawn to the edges of the picture, per mille of the width. */
  readonly hold: number
  /** In per cent of the width; negative shrinks. */
  readonly grow: number
  /** Standard deviation of a blur, per mille of the width. */
  readonly soften: number
  readonly invert: boolean
  /** It is one with others of its line that have this id, or the opposite of them. */
  readonly link?: { readonly id: string; readonly opposite: boolean }
}
