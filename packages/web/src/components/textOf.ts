/** What a file holds as text; one that is too large is refused before it is read. */
export function textOf(file: File, most: number): Promise<string> {
  if (file.size > most) throw new Error(`${file.name} is larger than ${most / 1e6} MB, the most that is read.`)
  return file.text()
}
