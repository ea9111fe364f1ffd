import { fieldsOf } from '../baths/fields'
import { defaultsOf } from '../baths/defaults'
import { kindById } from '../baths/kinds'
import type { Lanes } from '../keys/schema'
import { layName } from '../lay/blend'
import { whyIdle } from './edit'
import type { Bath, Recipe } from './recipe'

type Field = {
  readonly title: string
  readonly unit?: string
  readonly enum?: readonly unknown[]
  readonly labels?: readonly string[]
}

/**
 * What became of a line, in words, one change each: 'Colour print: bleach, print 100 → 20 %'. Empty where both do the
 * same. Baths are paired by their ids; what is left over, because a line that is taken from the shelf has new ones, by kind
 * in their order.
 */
export function describeChanges(before: Recipe, after: Recipe): string[] {
  const pairs = paired(before.baths, after.baths)
  const places = after.baths.flatMap((bath) => (pairs.has(bath) ? [before.baths.indexOf(pairs.get(bath)!)] : []))
  const kept = new Set(pairs.values())
  return [
    ...before.baths.filter((bath) => !kept.has(bath)).map((bath) => `without ${nameOf(bath)}`),
    ...after.baths.flatMap((bath) => {
      const was = pairs.get(bath)
      return was ? changesOf(was, bath).map((words) => `${nameOf(bath)}: ${words}`) : [`with ${nameOf(bath)}`]
    }),
    ...(places.every((place, i) => i === 0 || place > places[i - 1]!) ? [] : ['in another order']),
    ...(before.strength === after.strength ? [] : [`strength of the line ${before.strength} → ${after.strength} %`]),
    ...laneWords(before.keys, after.keys, {}).map((words) => `the line: ${words}`),
  ]
}

const nameOf = ({ name, kind }: Bath): string => name || kindById(kind).label

/** What each bath was before, where it was there. */
function paired(before: readonly Bath[], after: readonly Bath[]): Map<Bath, Bath> {
  const left = new Set(before)
  const pairs = new Map<Bath, Bath>()
  const pair = (bath: Bath, like: (was: Bath) => boolean): void => {
    const was = pairs.has(bath) ? undefined : [...left].find(like)
    if (!was) return
    pairs.set(bath, was)
    left.delete(was)
  }
  for (const bath of after) pair(bath, (was) => was.id === bath.id)
  for (const bath of after) pair(bath, (was) => was.kind === bath.kind)
  return pairs
}

const HOW = [
  ['in', (v: Bath['in']) => (v ? 'back in the line' : 'lifted out')],
  ['lay', (v: Bath['lay']) => `blended by ${layName(v)}`],
  ['under', (v: Bath['under']) => (v ? 'laid under' : 'laid over')],
  ['takes', (v: Bath['takes']) => (v === 'camera' ? 'takes the camera’s picture' : 'takes the line’s picture')],
] as const

function changesOf(before: Bath, after: Bath): string[] {
  if (before.kind !== after.kind) return [`in place of ${kindById(before.kind).label}`]
  const how = HOW.flatMap(([key, words]) => (before[key] === after[key] ? [] : [words(after[key] as never)]))
  const fields = fieldsOf<Field>(kindById(after.kind).schema)
  const settings = Object.entries(fields).flatMap(([key, field]) => {
    const [was, is] = [before.settings[key], after.settings[key]]
    return JSON.stringify(was) === JSON.stringify(is) ? [] : [settingWords(field, was, is)]
  })
  return [
    ...settings,
    ...(before.strength === after.strength ? [] : [`strength ${before.strength} → ${after.strength} %`]),
    ...how,
    ...(before.name === after.name ? [] : [`was called ${before.name || kindById(before.kind).label}`]),
    ...(JSON.stringify(before.mask) === JSON.stringify(after.mask) ? [] : [maskWords(before, after)]),
    ...laneWords(before.keys, after.keys, fields),
  ]
}

/** What became of lanes, one sentence each. */
function laneWords(before: Lanes = {}, after: Lanes = {}, fields: Readonly<Record<string, Field>>): string[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((name) => {
    const [was, is] = [before[name], after[name]]
    if (JSON.stringify(was) === JSON.stringify(is)) return []
    const title = fields[name]?.title.toLowerCase() ?? name
    if (!is) return [`${title} no more changes over the shot`]
    return [was ? `${title} changes otherwise over the shot` : `${title} changes over the shot`]
  })
}

const maskWords = (before: Bath, after: Bath): string =>
  !after.mask ? 'without its mask' : before.mask ? 'another mask' : 'with a mask'

/** Numbers, switches and choices are named with both values; drawn things only as changed. */
function settingWords(field: Field, was: unknown, is: unknown): string {
  const name = field.title.charAt(0).toLowerCase() + field.title.slice(1)
  const [from, to] = [said(field, was), said(field, is)]
  const unit = field.unit ? ` ${field.unit}` : ''
  return from === null || to === null ? `${name} changed` : `${name} ${from} → ${to}${unit}`
}

/** A value in words, without its unit; null for what is drawn. */
function said({ enum: values, labels }: Field, v: unknown): string | null {
  if (typeof v === 'number') return String(Math.round(v * 1000) / 1000)
  if (typeof v === 'boolean') return v ? 'on' : 'off'
  if (typeof v !== 'string') return null
  return labels?.[values?.indexOf(v) ?? -1] ?? (v.length <= 12 ? v : null)
}

/** A setting that is not at its default. */
export interface OwnSetting {
  readonly title: string
  /** With its unit; null for what is drawn. */
  readonly value: string | null
  readonly usual: string | null
}

/** What of a bath differs from a new one of its kind, in the order of its settings. */
export function ownSettings({ kind, settings }: Bath): OwnSetting[] {
  const { schema } = kindById(kind)
  return differing(schema.properties, settings, defaultsOf(schema))
}

/** What baths at work are set to, in words: 'Balance: exposure 0.5 stop; Timing: saturation 90 %'. Empty where none is. */
export const tellBaths = (baths: readonly Bath[]): string =>
  baths
    .filter((bath) => !whyIdle(bath))
    .map((bath) => {
      const own = ownSettings(bath).map(({ title, value }) => `${title.toLowerCase()} ${value ?? ''}`.trim())
      return own.length > 0 ? `${nameOf(bath)}: ${own.join(', ')}` : nameOf(bath)
    })
    .join('; ')

type Values = Readonly<Record<string, unknown>>

function differing(properties: object, values: Values, usual: Values): OwnSetting[] {
  return Object.entries(properties as Record<string, Field>).flatMap(([key, field]) => {
    if (JSON.stringify(values[key]) === JSON.stringify(usual[key])) return []
    const told = (v: unknown): string | null => {
      const words = said(field, v)
      return words === null || !field.unit ? words : `${words} ${field.unit}`
    }
    return [{ title: field.title, value: told(values[key]), usual: told(usual[key]) }]
  })
}
