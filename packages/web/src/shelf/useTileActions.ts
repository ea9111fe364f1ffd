import { ref, shallowRef, type Ref } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import type { KeptRecipe, Shot } from '@fogbath/contract'
import { wordsOf } from '../stores/errors'
import { useShelfStore, type Texts } from '../stores/shelf'
import { startEngines } from '../workers/engine'
import { through } from '../workers/order'
import type { FrameOrder } from '../workers/protocol'
import { MOST_LETTERS, NOTHING_AROUND, type Recipe } from '@fogbath/core/line'
import { type SharedRecipe } from '@fogbath/core/shelf'
import type { ShelfEntry } from './entries'
import { saveRecipes } from './files'
import type { TileAction } from './ShelfTile.vue'

interface Parts {
  readonly shot: Readonly<Ref<Shot | undefined>>
  readonly shownWhenKnown: () => Promise<FrameOrder | null>
  readonly problem: Ref<string>
  readonly folder: Ref<{ look: () => Promise<void> } | null>
  readonly put: (entry: ShelfEntry, shotIds: readonly number[]) => Promise<void>
}

const COPY = ' (copy)'
/** Width of the small picture in a recipe's file. */
const PICTURE = 320

/** What can be done with a recipe of the shelf. */
export function useTileActions({ shot, shownWhenKnown, problem, folder, put }: Parts) {
  const shelf = useShelfStore()
  const router = useRouter()
  const renamed = shallowRef<KeptRecipe | null>(null)
  const delivering = shallowRef<ShelfEntry | null>(null)
  /** The recipe for which shots are chosen. */
  const putting = shallowRef<ShelfEntry | null>(null)
  /** What was done, where nothing on the page shows it. */
  const said = ref('')

  const tried = async (work: () => Promise<unknown>): Promise<void> => {
    said.value = ''
    problem.value = await work().then(() => '', wordsOf)
  }
  const change = (row: KeptRecipe, what: Parameters<typeof shelf.change>[1]): Promise<void> =>
    tried(() => shelf.change(row, what))
  const mark = ({ key, favourite }: ShelfEntry): Promise<void> => tried(() => shelf.mark(key, !favourite))
  const finishRenaming = async (texts: Texts): Promise<void> => {
    await change(renamed.value!, texts)
    renamed.value = null
  }

  function copy({ name, sentence, tags, recipe, kept }: ShelfEntry): Promise<void> {
    const texts = { name: `${name.slice(0, MOST_LETTERS.recipe - COPY.length)}${COPY}`, sentence, tags: [...tags] }
    const { maker = '', notes = '' } = kept ?? {}
    return tried(() => shelf.keep({ ...texts, maker, notes }, recipe))
  }

  /** A small JPEG of the chosen picture through a recipe; null without one. */
  async function pictureOf(recipe: Recipe): Promise<string | null> {
    const shown = await shownWhenKnown()
    if (!shown) return null
    const engines = startEngines(1)
    try {
      const wanted = through({ ...shown, order: { ...shown.order, ...NOTHING_AROUND } }, recipe, PICTURE)
      const bitmap = await engines.picture.thumbnail(JSON.parse(JSON.stringify(wanted)) as typeof wanted)
      const canvas = document.createElement('canvas')
      ;[canvas.width, canvas.height] = [bitmap.width, bitmap.height]
      canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
      bitmap.close()
      return canvas.toDataURL('image/jpeg', 0.85)
    } finally {
      engines.end()
    }
  }

  /** The files of recipes, each with a picture. */
  async function filesOf(rows: readonly KeptRecipe[]): Promise<SharedRecipe[]> {
    const files: SharedRecipe[] = []
    for (const row of rows) files.push({ ...(await api.recipeFile(row.id)), picture: await pictureOf(row.recipe) })
    return files
  }

  async function share(row: KeptRecipe): Promise<void> {
    const { file } = await api.share(row.id, await pictureOf(row.recipe))
    said.value = `${row.name} is in the shared folder as ${file}.`
    await folder.value?.look()
  }

  const saveShown = (rows: readonly KeptRecipe[]): Promise<void> => tried(async () => saveRecipes(await filesOf(rows)))

  function act(what: TileAction, entry: ShelfEntry): void {
    const { kept } = entry
    if (what === 'put' && shot.value) void put(entry, [shot.value.id])
    if (what === 'put-on') putting.value = entry
    if (what === 'file') void saveShown([kept!])
    if (what === 'rename') renamed.value = kept
    if (what === 'copy') void copy(entry)
    if (what === 'archive') void change(kept!, { archived: !kept!.archived })
    if (what === 'share') void tried(() => share(kept!))
    if (what === 'look') delivering.value = entry
    if (what === 'sheet') void router.push(`/sheet/${entry.key}${shot.value ? `?shot=${shot.value.id}` : ''}`)
  }

  return { act, saveShown, mark, renamed, finishRenaming, delivering, putting, said }
}
