import { defaultsOf } from '../baths/defaults'
import { FogBathError } from '../errors'
import { PART_SCHEMAS, PART_TYPES, maskFields, type Mask, type MaskPart, type PartType } from './schema'

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

export const changePartSettings = (mask: Mask, index: number, settings: Record<string, unknown>): Mask => ({
  ...mask,
  parts: mask.parts.map((p, i) => (i === index ? ({ ...p, settings: { ...p.settings, ...settings } } as MaskPart) : p)),
})

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
    return {
      join: 'add',
      invert: false,
      ...(part as Loose),
      settings: isObject(given) ? { ...defaultsOf(PART_SCHEMAS[type as PartType]), ...given } : given,
    }
  })
  return { ...defaults, ...mask, parts }
}
