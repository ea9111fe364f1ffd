import { ROUTES, type LookedFile } from '@fogbath/contract'
import { SHARED_FORM, stateOfVersions, type SharedRecipe } from '@fogbath/core/shelf'
import { KeptRecipe, RecipeVersion } from '../db/models'
import { findRow } from '../db/rows'
import { Fault, sentenceOf } from '../errors'
import { inTurn, marksOf, marksOnShelf, takeOnto } from '../shelf/versions'
import { parseShared } from '../validate'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

/** Recipes as open files: out, in, and a folder that a team shares. Nothing that is there is ever changed by a file. */
export function sharingRoutes(app: App, { db, shared }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.recipeFile, ({ params }) => fileOf(params.id, null))

  serve(ROUTES.previewFiles, async ({ body }) => {
    const looked: LookedFile[] = []
    for (const { name, text } of body.files) looked.push(await look(name, () => briefOf(parseShared(text, name))))
    return looked
  })

  serve(ROUTES.importFiles, ({ body }) => {
    const read = body.files.map(({ name, text, beside = false }) => ({
      shared: parseShared(text, name),
      beside,
    }))
    return inTurn(() =>
      db.transaction(async (transaction) => {
        let taken = 0
        for (const { shared: file, beside } of read)
          if (await takeOnto({ ...file, archived: false }, { beside, origin: 'a file' }, transaction)) taken++
        return { taken }
      }),
    )
  })

  serve(ROUTES.sharedFiles, async () => {
    if (!shared) return { folder: null, files: [], left: 0 }
    const { files, left } = await shared.list()
    const looked: LookedFile[] = []
    for (const found of files)
      looked.push(
        await look(found.file, () => {
          if (found.problem !== null) throw new Fault('invalid', found.problem)
          return { key: found.key, name: found.name ?? '', marks: found.marks }
        }),
      )
    return { folder: shared.folder, files: looked, left }
  })

  serve(ROUTES.sharedFile, ({ params }) => {
    if (!shared) throw noFolder()
    return shared.read(params.file)
  })

  serve(ROUTES.share, async ({ params, body }) => {
    if (!shared) throw noFolder()
    return { file: await shared.add(await fileOf(params.id, body.picture)) }
  })
}

const noFolder = (): Fault => new Fault('invalid', 'No shared folder is set; start with FOGBATH_SHARED=/folder.')

interface Brief {
  readonly key: string
  readonly name: string
  readonly marks: readonly string[]
}

const briefOf = ({ key, name, versions }: SharedRecipe): Brief => ({
  key,
  name,
  marks: marksOf(versions.map((v) => v.recipe)),
})

async function look(file: string, read: () => Brief): Promise<LookedFile> {
  try {
    const { key, name, marks } = read()
    const own = await marksOnShelf(key)
    const [state, versions] = [stateOfVersions(marks, own), marks.length]
    return { file, name, state, versions, own: own?.length ?? 0, problem: null }
  } catch (error) {
    return { file, name: null, state: 'broken', versions: 0, own: 0, problem: sentenceOf(error) }
  }
}

async function fileOf(id: number, picture: string | null): Promise<SharedRecipe> {
  const { key, name, sentence, maker, notes, tags } = await findRow(KeptRecipe, id, 'recipe')
  const versions = await RecipeVersion.findAll({ where: { keptRecipeId: id }, order: [['number', 'ASC']] })
  return {
    form: SHARED_FORM,
    key,
    name,
    sentence,
    notes,
    maker,
    tags: [...tags],
    picture,
    versions: versions.map(({ recipe, changes, createdAt }) => ({
      recipe,
      changes: [...changes],
      made: createdAt.toISOString(),
    })),
  }
}
