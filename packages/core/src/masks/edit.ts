import { defaultsOf } from '../baths/defaults'
import { FogBathError } from '../errors'
import type { Lane } from '../keys/schema'
import { PART_SCHEMAS, PART_TYPES, type PartType } from './parts'
import { maskFields, type Mask, type MaskPart } from './schema'

/** Changes to masks as pure functions. */

export function newPart(type: PartType, settings: Record<string, unknown> = {}): MaskPart {
  return {
    type,
    join: 'add',
    invert: false,
    settings: { ...defaultsOf(PART_SCHEMAS[type]), ...settings },
  } as unknown as MaskPart
}

const defaults = Object.fromEntries(
  Object.entries(maskFields).map(([k, f]) => [k, (f as { default?: unknown }).default]),
)

/** Adds a part; a mask that was not there comes to be. */
export const withPart = (mask: Mask | null, part: MaskPart): Mask =>
  mask ? { ...mask, parts: [...mask.parts, part] } : ({ ...defaults, parts: [part] } as unknown as Mask)

/** Takes a part away; without its last part the mask is gone. */
export const withoutPart = (mask: Mask, index: number): Mask | null =>
  mask.parts.length > 1 ? { ...mask, parts: mask.parts.filter((_, i) => i !== index) } : null

export const changePart = (mask: Mask, index: number, change: Partial<Pick<MaskPart, 'join' | 'invert'>>): Mask => ({
  ...mask,
  parts: mask.parts.map((p, i) => (i === index ? { ...p, ...change } : p)),
})

export const changePartSettings = (mask: Mask, index: number, settings: Record<string, unknown>): Mask =>
  partOfMask(mask, index, (p) => ({ ...p, settings: { ...p.settings, ...settings } }) as MaskPart)

/** A part as what becomes of it. */
export const partOfMask = (mask: Mask, index: number, become: (part: MaskPart) => MaskPart): Mask => ({
  ...mask,
  parts: mask.parts.map((part, i) => (i === index ? become(part) : part)),
})

/** A part that follows a track, or none. */
export function following({ follows: _, ...part }: MaskPart, id: string | null): MaskPart {
  return id === null ? part : { ...part, follows: id }
}

/** A part that is moved by hand over the shot, or not. */
export function moving({ moves: _, ...part }: MaskPart, lane: Lane | null): MaskPart {
  return (lane === null ? part : { ...part, moves: lane }) as MaskPart
}

/** The mask that stands for a linked one elsewhere: the same, or its opposite. */
export const asLinked = (mask: Mask, link: NonNullable<Mask['link']>): Mask => ({
  ...mask,
  invert: (mask.invert !== (mask.link?.opposite ?? false)) !== link.opposite,
  link,
})

/** A mask by itself: what becomes of others does not touch it. */
export function unlinked({ link: _, ...mask }: Mask): Mask {
  return mask
}

/** Keys of a part that leave something open have it as the part has it. */
function completeMoves({ moves }: Loose, settings: unknown): Loose {
  if (!isObject(moves) || !Array.isArray(moves['keys']) || !isObject(settings))
    return moves === undefined ? {} : { moves }
  const whole = (value: unknown): unknown => (isObject(value) ? { ...settings, ...value } : value)
  const keys = moves['keys'].map((key: unknown) => (isObject(key) ? { ...key, value: whole(key['value']) } : key))
  return { moves: { ...moves, keys } }
}

type Loose = Record<string, unknown>
const isObject = (v: unknown): v is Loose => typeof v === 'object' && v !== null && !Array.isArray(v)

/** Fills in what a hand-written mask leaves open; whether the rest is right is the validator's business. */
export function completeMask(mask: unknown, where: string): unknown {
  if (!isObject(mask) || !Array.isArray(mask['parts'])) return mask ?? null
  const parts = mask['parts'].map((part: unknown, i) => {
    const type = isObject(part) ? part['type'] : undefined
    if (!PART_TYPES.includes(type as PartType))
      throw new FogBathError(
        'recipe',
        `${where}/parts/${i}`,
        `Part ${i + 1} of the mask in ${where} is of type '${String(type)}'; it must be one of: ${PART_TYPES.join(', ')}.`,
      )
    const given = (part as Loose)['settings'] ?? {}
    const settings = isObject(given) ? { ...defaultsOf(PART_SCHEMAS[type as PartType]), ...given } : given
    return { join: 'add', invert: false, ...(part as Loose), settings, ...completeMoves(part as Loose, settings) }
  })
  return { ...defaults, ...mask, parts }
}
