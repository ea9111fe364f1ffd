import Type, { type Static } from 'typebox'
import { EncodingIdSchema } from '../encodings'
import { FogBathError } from '../errors'
import { DELIVERY_IDS, deliveryFormat, type DeliveryId } from './formats'

export const MOST_PRESET_NAME = 60
/** Largest side that is delivered, pixels. */
const MOST_DELIVERED_SIDE = 16_384

const side = Type.Integer({ minimum: 16, maximum: MOST_DELIVERED_SIDE })
/** How a picture comes to another size: whole with black beside it, filling it with its edges cut off, or out of shape. */
export const FITS = { whole: 'whole, black beside it', fill: 'filled, edges cut off', stretch: 'out of shape' } as const
export type Fit = keyof typeof FITS

/** How light is packed in EXR: not at all, by runs, or by Deflate, a line or sixteen at once (OpenEXR, all without loss). */
export const COMPRESSIONS = {
  none: 'none, the largest',
  rle: 'by runs',
  zip1: 'Deflate, line by line',
  zip16: 'Deflate, by sixteen lines',
} as const
export type Compression = keyof typeof COMPRESSIONS

/** What shots become: all that a render depends on beside the shot. */
export const DeliverySchema = Type.Object(
  {
    format: Type.Unsafe<DeliveryId>({ type: 'string', enum: [...DELIVERY_IDS] }),
    to: Type.Optional(
      Type.Unsafe<string>({
        ...EncodingIdSchema,
        description: 'Its encoding; as the format and the footage have it when left out.',
      }),
    ),
    size: Type.Optional(
      Type.Object(
        {
          width: side,
          height: side,
          fit: Type.Unsafe<Fit>({ type: 'string', enum: Object.keys(FITS) }),
        },
        { additionalProperties: false, description: 'Its own size when left out.' },
      ),
    ),
    quality: Type.Optional(
      Type.Number({
        minimum: 1,
        maximum: 100,
        description: 'Of formats that can give detail up for size: 100 gives up none.',
      }),
    ),
    rate: Type.Optional(
      Type.Number({ minimum: 0.1, maximum: 2000, description: 'Megabits a second, in place of a quality.' }),
    ),
    compression: Type.Optional(
      Type.Unsafe<Compression>({
        type: 'string',
        enum: Object.keys(COMPRESSIONS),
        description: 'Of EXR; by sixteen lines when left out.',
      }),
    ),
    slate: Type.Optional(
      Type.Boolean({
        description:
          'Whether a clip begins with a frame that says what it is; the sound and the timecode begin behind it.',
      }),
    ),
    sound: Type.Optional(
      Type.Boolean({ description: 'Whether the sound of the footage goes along; it does when left out.' }),
    ),
    alpha: Type.Optional(
      Type.Boolean({
        description:
          'Whether the alpha of the footage goes along where the format has room for it; it does not when left out.',
      }),
    ),
    handles: Type.Optional(
      Type.Integer({
        minimum: 0,
        maximum: 10_000,
        description: 'Frames before in and behind out, as far as there are any.',
      }),
    ),
    burnIn: Type.Optional(
      Type.Object(
        {
          shot: Type.Optional(Type.Boolean()),
          timecode: Type.Optional(Type.Boolean()),
          note: Type.Optional(Type.String({ maxLength: 120 })),
        },
        {
          additionalProperties: false,
          description: 'Written into the picture: what it is, where, and a word of one’s own.',
        },
      ),
    ),
    names: Type.Optional(
      Type.String({ minLength: 1, maxLength: 200, description: 'How files are called, with {shot} and other tokens.' }),
    ),
  },
  { additionalProperties: false },
)
export type Delivery = Static<typeof DeliverySchema>

/** A delivery under a name; shared as a file. */
export const PresetSchema = Type.Object(
  {
    version: Type.Optional(Type.Literal(1)),
    name: Type.String({ minLength: 1, maxLength: MOST_PRESET_NAME, pattern: '\\S' }),
    ...DeliverySchema.properties,
  },
  { additionalProperties: false },
)
export type Preset = Static<typeof PresetSchema>

/** What comes with the program. */
export const SHIPPED_PRESETS: readonly (Preset & { readonly id: string })[] = [
  {
    id: 'approval',
    name: 'For approval',
    format: 'h264-8.mp4',
    size: { width: 1280, height: 720, fit: 'whole' },
    quality: 75,
    burnIn: { shot: true, timecode: true },
  },
  { id: 'edit', name: 'For the edit', format: 'mov', handles: 12, names: '{number} {shot}' },
  { id: 'master', name: 'Master with alpha', format: 'prores-4444.mov', alpha: true },
  { id: 'keep', name: 'For keeping', format: 'mkv' },
  { id: 'stills', name: 'Stills', format: 'tif', names: '{shot} {timecode}' },
  { id: 'compositing', name: 'For compositing', format: 'exr', alpha: true, handles: 8 },
]

/** What is said of a delivery that its format cannot do. @throws FogBathError naming it */
export function checkDelivery(delivery: Delivery): void {
  const { format: id, quality, rate, alpha, burnIn, size, compression, slate } = delivery
  const { label, quality: own, alpha: room, float, compressed, moving } = deliveryFormat(id)
  const refuse = (name: string, rule: string): never => {
    throw new FogBathError('range', name, `${label} ${rule}`)
  }
  if (quality !== undefined && rate !== undefined)
    throw new FogBathError('range', 'quality', 'A delivery has a quality or a rate, not both.')
  if (quality !== undefined && !own) refuse('quality', 'has no quality that can be chosen.')
  if (rate !== undefined && own?.option !== '-crf') refuse('rate', 'has no rate that can be chosen.')
  if (compression !== undefined && !compressed) refuse('compression', 'has no compression that can be chosen.')
  if (slate && !moving) refuse('slate', 'is numbered by the frames of the footage; a slate goes before clips.')
  if (alpha && !room) refuse('alpha', 'has no room for alpha.')
  // Drawing words and bars would cut light off at white.
  if (burnIn && float) refuse('burnIn', 'holds light; words are not written into it.')
  if (size?.fit === 'whole' && float)
    refuse('size', 'holds light; it is filled or brought out of shape, without black beside it.')
}

/** What its encoder is told of quality, rate, or compression. */
export function chosenArgs({
  format: id,
  quality,
  rate,
  compression,
}: Pick<Delivery, 'format' | 'quality' | 'rate' | 'compression'>): string[] {
  const { quality: own, compressed } = deliveryFormat(id)
  if (compressed) return ['-compression', compression ?? 'zip16']
  if (!own) return []
  if (rate !== undefined) return ['-b:v', `${rate}M`, '-maxrate', `${rate}M`, '-bufsize', `${2 * rate}M`]
  const value = quality === undefined ? own.usual : own.best + ((own.least - own.best) * (100 - quality)) / 99
  return [own.option, String(Math.round(value))]
}
