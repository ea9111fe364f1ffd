import Type, { type TSchema } from 'typebox'
import type { Kind } from '../baths/kind'
import { LAY_MODES, type LayMode } from '../lay/blend'
import { MaskSchema, type Mask } from '../masks/schema'

export const ID = '^[a-z0-9][a-z0-9-]{0,63}$'

const bathFields = (kinds: readonly Kind[]) => ({
  id: Type.String({ pattern: ID, description: 'Unique in the line.' }),
  kind: Type.Unsafe<string>({ type: 'string', enum: kinds.map((k) => k.id) }),
  name: Type.String({
    maxLength: 60,
    default: '',
    description: 'The colourist’s own name for the bath; empty for the kind’s.',
  }),
  in: Type.Boolean({ default: true, description: 'False while the bath is lifted out.' }),
  strength: Type.Number({ minimum: 0, maximum: 100, default: 100, description: 'Per cent.' }),
  lay: Type.Unsafe<LayMode>({ type: 'string', enum: [...LAY_MODES], default: 'normal' }),
  under: Type.Boolean({ default: false, description: 'The line is laid over the bath instead.' }),
  takes: Type.Unsafe<'camera' | 'line'>({ type: 'string', enum: ['camera', 'line'] }),
  mask: Type.Unsafe<Mask | null>(MaskSchema),
})

const withSettings = (kinds: readonly Kind[], settings: TSchema) =>
  Type.Object({ ...bathFields(kinds), settings }, { additionalProperties: false })

/** A bath's settings depend on its kind: one if/then rule a kind keeps the errors of a validator exact. */
export const bathSchemaOf = (kinds: readonly Kind[]) =>
  ({
    ...withSettings(kinds, Type.Unsafe<Record<string, unknown>>({ type: 'object' })),
    allOf: kinds.map((kind) => ({
      if: { type: 'object', required: ['kind'], properties: { kind: { const: kind.id } } },
      then: { type: 'object', properties: { settings: kind.schema } },
    })),
  }) as unknown as ReturnType<typeof withSettings>

export interface Bath {
  readonly id: string
  readonly kind: string
  readonly name: string
  readonly in: boolean
  /** 0..100 per cent. */
  readonly strength: number
  readonly lay: LayMode
  readonly under: boolean
  readonly takes: 'camera' | 'line'
  /** Where the bath works; null for everywhere. */
  readonly mask: Mask | null
  readonly settings: Readonly<Record<string, unknown>>
}
