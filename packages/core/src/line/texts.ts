import Type from 'typebox'

/** Most letters of what people write, in the page, the API, files and the database alike. */
export const MOST_LETTERS = {
  production: 120,
  shot: 120,
  trial: 60,
  proof: 60,
  recipe: 80,
  mask: 80,
  bath: 60,
  sentence: 300,
  maker: 80,
  notes: 2000,
  tag: 40,
  /** Name of a file that was brought, and what is made of several names. */
  file: 255,
} as const
export const MOST_TAGS = 20

/** A name of a thing: some text that is not blank. */
export const nameOf = (thing: keyof typeof MOST_LETTERS) =>
  Type.String({ minLength: 1, maxLength: MOST_LETTERS[thing], pattern: '\\S' })
/** Any text. */
export const textOf = (thing: keyof typeof MOST_LETTERS) => Type.String({ maxLength: MOST_LETTERS[thing] })
export const TagsSchema = Type.Array(nameOf('tag'), { maxItems: MOST_TAGS, uniqueItems: true })
