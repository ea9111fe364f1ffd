import type { KeptPreset } from '@fogbath/contract'
import {
  DELIVERY_IDS,
  SHIPPED_PRESETS,
  deliveryFormat,
  deliveryOfPreset,
  type Delivery,
  type DeliveryId,
} from '@fogbath/core/delivery'

/** A delivery that can be chosen: one that came with the program, or a kept one. */
export interface Choice {
  readonly key: string
  readonly name: string
  readonly delivery: Delivery
  readonly kept: KeptPreset | null
}

export const choicesOf = (kept: readonly KeptPreset[]): Choice[] => [
  ...SHIPPED_PRESETS.map((p) => ({ key: p.id, name: p.name, delivery: deliveryOfPreset(p), kept: null })),
  ...kept.map((p) => ({ key: `own ${p.id}`, name: p.name, delivery: p.delivery, kept: p })),
]

/** Formats in a menu, those of clips before those of stills: what they are, and the ending of their files. */
export const formatChoices = [true, false].map((moving) => ({
  type: 'group' as const,
  key: moving ? 'clips' : 'stills',
  label: moving ? 'Clips' : 'Numbered stills',
  children: DELIVERY_IDS.filter((id) => deliveryFormat(id).moving === moving).map((value) => ({
    value,
    label: `${deliveryFormat(value).label} (.${deliveryFormat(value).ending})`,
  })),
}))

/** With another format: what that cannot be told is left out. */
export function withFormat(
  { quality, rate, alpha, burnIn, size, slate, compression, ...rest }: Delivery,
  format: DeliveryId,
): Delivery {
  const { quality: own, alpha: room, float, moving, compressed } = deliveryFormat(format)
  return {
    ...rest,
    format,
    ...(quality !== undefined && own && { quality }),
    ...(rate !== undefined && own?.option === '-crf' && { rate }),
    ...(alpha !== undefined && room && { alpha }),
    ...(burnIn && !float && { burnIn }),
    ...(slate && moving && { slate }),
    ...(compression && compressed && { compression }),
    ...(size && { size: float && size.fit === 'whole' ? { ...size, fit: 'fill' } : size }),
  }
}

/** With a field set, or left out. */
export function withField<K extends keyof Delivery>(
  delivery: Delivery,
  field: K,
  value: Delivery[K] | undefined,
): Delivery {
  const { [field]: _, ...rest } = delivery
  return (value === undefined ? rest : { ...rest, [field]: value }) as Delivery
}

/** A delivery has a quality or a rate: the one that was set last. @param rate megabits a second; null for none */
export const withQuality = (delivery: Delivery, quality: number): Delivery =>
  withField(withField(delivery, 'rate', undefined), 'quality', quality)
export const withRate = (delivery: Delivery, rate: number | null): Delivery =>
  withField(rate === null ? delivery : withField(delivery, 'quality', undefined), 'rate', rate ?? undefined)
