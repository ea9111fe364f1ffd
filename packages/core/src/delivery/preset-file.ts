import Value from 'typebox/value'
import { FogBathError } from '../errors'
import { PresetSchema, checkDelivery, type Delivery, type Preset } from './preset'

export interface NamedDelivery {
  readonly name: string
  readonly delivery: Delivery
}

/** What a preset delivers, without its name. */
export const deliveryOfPreset = ({ id: _, name: __, version: ___, ...delivery }: Preset & { id?: string }): Delivery =>
  delivery

/** A preset out of a file (JSON). @throws FogBathError that names the file, the place and the rule */
export function readPreset(text: string, file: string): NamedDelivery {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch (error) {
    throw new FogBathError('format', 'preset', `${file} is no JSON: ${(error as Error).message}`)
  }
  const [wrong] = Value.Errors(PresetSchema, value)
  if (wrong) throw new FogBathError('format', 'preset', `${file}${wrong.instancePath} ${ruleOf(wrong)}.`)
  const preset = value as Preset
  checkDelivery(preset)
  return { name: preset.name, delivery: deliveryOfPreset(preset) }
}

function ruleOf({ keyword, params, message }: { keyword: string; params: unknown; message: string }): string {
  if (keyword !== 'enum') return message
  const { allowedValues } = params as { allowedValues: readonly unknown[] }
  return `must be one of ${allowedValues.join(', ')}`
}

/** A preset as a file. */
export const writePreset = ({ name, delivery }: NamedDelivery): string =>
  `${JSON.stringify({ version: 1, name, ...delivery } satisfies Preset, null, 2)}\n`
