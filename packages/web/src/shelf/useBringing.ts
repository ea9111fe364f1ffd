import { ref, shallowRef, type Ref } from 'vue'
import { wordsOf } from '../stores/errors'
import { recipeFiles, type RecipeFile } from './files'

interface Parts {
  readonly problem: Ref<string>
  readonly reload: () => Promise<void>
  readonly folder: Ref<{ look: () => Promise<void> } | null>
}

/** Recipe files that are dropped or picked; they are looked at before anything is taken. */
export function useBringing({ problem, reload, folder }: Parts) {
  const bringing = shallowRef<readonly RecipeFile[]>([])
  /** Whether something is held over the page. */
  const over = ref(false)
  const picker = ref<HTMLInputElement | null>(null)

  async function bring(files: FileList | null | undefined): Promise<void> {
    if (!files || files.length === 0) return
    problem.value = ''
    try {
      const found = await recipeFiles([...files])
      if (found.length === 0) problem.value = 'No recipe is in these files.'
      bringing.value = found
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }
  function drop(e: DragEvent): void {
    over.value = false
    void bring(e.dataTransfer?.files)
  }
  async function pick(e: Event): Promise<void> {
    const field = e.target as HTMLInputElement
    await bring(field.files)
    field.value = ''
  }
  async function done(): Promise<void> {
    bringing.value = []
    await Promise.all([reload(), folder.value?.look()])
  }
  return { bringing, over, drop, pick, picker, done }
}
