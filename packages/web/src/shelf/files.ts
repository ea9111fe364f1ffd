import type { SharedRecipe } from '@fogbath/core/shelf'
import { strFromU8, strToU8, unzip, zip, type Unzipped } from 'fflate'
import { fileName, saveFile } from '../components/save'
import { textOf } from '../components/textOf'

/** A file of a recipe as text. */
export interface RecipeFile {
  readonly name: string
  readonly text: string
}

/** One recipe as a .json file, several as a .zip of such files. */
export async function saveRecipes(recipes: readonly SharedRecipe[]): Promise<void> {
  const texts = recipes.map((r) => `${JSON.stringify(r, null, 2)}\n`)
  const [only] = recipes
  if (only && recipes.length === 1) return saveFile(texts[0]!, 'application/json', `${fileName(only.name)}.json`)
  // Two recipes may have one name.
  const entries = recipes.map((r, i) => [`${fileName(r.name)} ${r.key}.json`, strToU8(texts[i]!)] as const)
  const bytes = await new Promise<Uint8Array>((resolve, reject) =>
    zip(Object.fromEntries(entries), (error, data) => (error ? reject(error) : resolve(data))),
  )
  saveFile(new Uint8Array(bytes), 'application/zip', `recipes ${recipes.length}.zip`)
}

/** Most bytes that an archive may come to when it is opened. */
const MOST_BYTES = 24e6

/** Recipe files among those that were brought, and in archives among them. Throws naming the file. */
export async function recipeFiles(files: readonly File[]): Promise<RecipeFile[]> {
  const read = await Promise.all(
    files.map(async (file) => {
      if (/\.zip$/i.test(file.name)) return opened(file)
      if (!/\.json$/i.test(file.name)) throw new Error(`${file.name} is neither a .json nor a .zip of recipes.`)
      return [{ name: file.name, text: await textOf(file, MOST_BYTES) }]
    }),
  )
  const all = read.flat()
  if (all.reduce((sum, { text }) => sum + text.length, 0) > MOST_BYTES)
    throw new Error(`These files come to more than ${MOST_BYTES / 1e6} MB; bring them in smaller parts.`)
  return all
}

async function opened(file: File): Promise<RecipeFile[]> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  let left = MOST_BYTES
  const entries = await new Promise<Unzipped>((resolve, reject) =>
    unzip(
      bytes,
      { filter: ({ name, originalSize }) => /\.json$/i.test(name) && (left -= originalSize) >= 0 },
      (error, data) => (error ? reject(new Error(`${file.name} is no archive that can be opened.`)) : resolve(data)),
    ),
  )
  if (left < 0) throw new Error(`${file.name} holds more than ${MOST_BYTES / 1e6} MB.`)
  return Object.entries(entries).map(([name, data]) => ({ name, text: strFromU8(data) }))
}
