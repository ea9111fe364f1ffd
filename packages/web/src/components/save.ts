import { MOST_LETTERS } from '@fogbath/core/line'
/** A name that every file system takes. */
export const fileName = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N} _-]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, MOST_LETTERS.recipe) || 'recipe'

/** Hands a file to whoever sits before the page. */
export function saveFile(data: BlobPart, type: string, name: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([data], { type }))
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
