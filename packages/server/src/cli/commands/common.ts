import { existsSync } from 'node:fs'
import { type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { InvalidArgumentError } from 'commander'
import { Fault } from '../../errors'
import { nearest } from '../nearest'

/** Largest recipe file that is read, bytes: one holds tables of colours, and all its versions. */
const MOST_RECIPE_BYTES = 64e6

/** A recipe by the path of a file, or by the id of a shipped one. */
export async function loadRecipe(name: string): Promise<Recipe> {
  const shipped = SHIPPED_RECIPES.find((r) => r.id === name)
  if (shipped) return shipped
  if (!existsSync(name)) {
    const meant = nearest(
      name,
      SHIPPED_RECIPES.map((r) => r.id),
    )
    throw new Fault(
      'usage',
      `'${name}' is neither a recipe file nor a shipped recipe; ${meant ? `did you mean ${meant}?` : 'fogbath recipes lists them.'}`,
    )
  }
  const { parseRecipe } = await import('../../validate')
  const { openRegular, readText } = await import('../../files/inside')
  return parseRecipe(await readText(openRegular(name), MOST_RECIPE_BYTES, name), name)
}

/** What stands in a file of encodings may be named. */
export const ENCODINGS_HELP =
  'a file of encodings of your own: .json, an OpenColorIO config (.ocio), .clf, .cube, .spi1d, .spi3d'

/** Fields that are there; what is undefined is left out. */
export const given = <T extends object>(fields: T): { [K in keyof T]?: NonNullable<T[K]> } =>
  Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined)) as {
    [K in keyof T]?: NonNullable<T[K]>
  }

export const wholeNumber = (text: string): number => {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError('It must be a whole number.')
  return Number(text)
}

/** For options that take several. */
export const wholeNumbers = (text: string, before: readonly number[] = []): number[] => [...before, wholeNumber(text)]

export const print = (text: string): void => void process.stdout.write(`${text}\n`)

/** A line that is rewritten on a terminal and left out elsewhere. */
export function progressLine(): (done: number, of: number) => void {
  const started = Date.now()
  return (done, of) => {
    if (!process.stderr.isTTY) return
    const left = Math.round((((Date.now() - started) / done) * (of - done)) / 1000)
    process.stderr.write(`\r${done} of ${of} frames, ${left} s left   ${done === of ? '\n' : ''}`)
  }
}

/** A line of JSON for each frame, for scripts. */
export function jsonProgress(): (done: number, of: number) => void {
  const started = Date.now()
  return (done, of) => {
    const fps = Number((done / Math.max(0.001, (Date.now() - started) / 1000)).toFixed(2))
    print(JSON.stringify({ frame: done, of, fps }))
  }
}

/** Words that are rewritten in place on a terminal and left out elsewhere. */
export const wordsLine = (words: string): void =>
  void (process.stderr.isTTY && process.stderr.write(`\r${words.padEnd(60)}`))
