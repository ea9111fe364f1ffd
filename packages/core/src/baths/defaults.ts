import type { TObject } from 'typebox'

/** The defaults that a schema names for its properties. */
export function defaultsOf(schema: TObject): Record<string, unknown> {
  const entries = Object.entries(schema.properties as Record<string, { default?: unknown }>)
  return Object.fromEntries(entries.map(([key, field]) => [key, field.default]))
}
