import Type, { type TSchema } from 'typebox'
import { LAY_MODES, type LayMode } from '../lay/blend'
import { LanesSchema, type Lanes } from '../keys/schema'
import { MaskSchema, type Mask } from '../masks/schema'
import { MOST_LETTERS } from './texts'

export const ID = '^[a-z0-9][a-z0-9-]{0,63}$'

/** All that the form of a bath takes of a kind. */
interface Named {
  readonly id: string
}

const bathFields = (kinds: readonly Named[]) => ({
  id: Type.String({ pattern: ID, description: 'Unique in the line.' }),
  kind: Type.Unsafe<string>({ type: 'string', enum: kinds.map((k) => k.id) }),
  name: Type.String({
    maxLength: MOST_LETTERS.bath,
    default: '',
    description: 'The colourist’s own name for the bath; empty for the kind’s.',
  }),
  in: Type.Boolean({ default: true, description: 'False while the bath is lifted out.' }),
  strength: Type.Number({ minimum: 0, maximum: 100, default: 100, description: 'Per cent.' }),
  lay: Type.Unsafe<LayMode>({ type: 'string', enum: [...LAY_MODES], default: 'normal' }),
  under: Type.Boolean({ default: false, description: 'The line is laid over the bath instead.' }),
  takes: Type.Unsafe<'camera' | 'line'>({ type: 'string', enum: ['camera', 'line'] }),
  mask: Type.Unsafe<Mask | null>(MaskSchema),
  keys: Type.Optional(LanesSchema),
})

const withSettings = (kinds: readonly Named[], settings: TSchema) =>
  Type.Object({ ...bathFields(kinds), settings }, { additionalProperties: false })

/**
 * Keyword of the rule that a bath's settings are those of its kind. Not one rule a kind: a validator would put together
 * those of all kinds before it reads the first bath, which takes longer than the work on many frames.
 */
export const SETTINGS_OF_KIND = 'settingsOfKind'

export const bathSchemaOf = (kinds: readonly Named[]) =>
  ({
    ...withSettings(kinds, Type.Unsafe<Record<string, unknown>>({ type: 'object' })),
    [SETTINGS_OF_KIND]: true,
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
  /** What changes over the shot: `strength`, and settings by their names. */
  readonly keys?: Lanes | undefined
  readonly settings: Readonly<Record<string, unknown>>
}
