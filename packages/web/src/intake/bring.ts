import { groupFiles, numbersOf, withGapsFilled, type Group } from '@fogbath/core/footage'
import { wrap, type Remote } from 'comlink'
import { api, uploadFile, uploadSequence, type Destination } from '../api/client'
import type { HashEngine } from '../workers/hash.worker'
import { filesOf, type BatchWork } from './batch'

let engine: Remote<HashEngine> | undefined
/** SHA-256 of a file, or of a part of it, worked out on a thread of its own. */
export function hashOf(file: Blob): Promise<string> {
  engine ??= wrap<HashEngine>(new Worker(new URL('../workers/hash.worker.ts', import.meta.url), { type: 'module' }))
  return engine.hash(file)
}

/** What a group is known by: the hash of its file, or those of its stills as they will lie there. */
async function signOf(group: Group<File>, signal: AbortSignal): Promise<{ hashes: string[]; ending: string }> {
  const files = filesOf(group)
  const hashes: string[] = []
  for (const file of files) {
    signal.throwIfAborted()
    hashes.push(await hashOf(file))
  }
  if (group.type === 'file') return { hashes, ending: '' }
  const names = files.map((f) => f.name)
  const ending = /\.[^.]+$/.exec(names[0]!)![0].toLowerCase()
  return { hashes: withGapsFilled(hashes, numbersOf(names) ?? names.map((_, i) => i)), ending }
}

/** Brings files to a production. @param fps of numbered stills */
export const bringing = (to: () => Destination, fps: () => string): BatchWork => ({
  async known(group, signal) {
    const [medium] = await api.known([await signOf(group, signal)])
    if (!medium || signal.aborted) return false
    const { production, asShots } = to()
    if (asShots) await api.addShot(production, medium)
    return true
  },
  async send(group, onSent, signal) {
    const { back = false } = await (group.type === 'file'
      ? uploadFile(to(), group.file, onSent, signal)
      : uploadSequence(to(), group.files, fps(), onSent, signal))
    return back
  },
})

/** Hidden files, which systems leave beside others, are no footage. */
const isMeant = ({ name }: { name: string }): boolean => !name.startsWith('.') && name !== 'Thumbs.db'

/** Files and folders that were dropped, with their paths; folders are looked through. */
export async function filesDropped(items: DataTransferItemList): Promise<{ path: string; file: File }[]> {
  // Both are there only until the event is over. What comes from a page and not from a disk has no entry.
  const dropped = [...items].map((item) => ({ entry: item.webkitGetAsEntry(), file: item.getAsFile() }))
  const found = await Promise.all(
    dropped.map(({ entry, file }) => {
      if (entry) return filesBelow(entry)
      return file && isMeant(file) ? [{ path: file.name, file }] : []
    }),
  )
  return inOrder(found.flat())
}

/** By their paths, numbers as numbers: folders give their files in any order. */
const inOrder = <F extends { path: string }>(files: readonly F[]): F[] => {
  const { compare } = new Intl.Collator('en', { numeric: true })
  return [...files].sort((a, b) => compare(a.path, b.path))
}

async function filesBelow(entry: FileSystemEntry): Promise<{ path: string; file: File }[]> {
  if (!isMeant(entry)) return []
  if (entry.isFile) {
    const file = await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail))
    return [{ path: entry.fullPath, file }]
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  const found: { path: string; file: File }[] = []
  for (;;) {
    // It gives a hundred at a time.
    const some = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail))
    if (some.length === 0) return found
    for (const one of some) found.push(...(await filesBelow(one)))
  }
}

/** Files with numbered stills of one folder together. */
export const groupsOf = (files: readonly { path: string; file: File }[]): Group<File>[] =>
  groupFiles(files, (f) => f.path).map((g) =>
    g.type === 'file' ? { type: 'file', file: g.file.file } : { type: 'sequence', files: g.files.map((f) => f.file) },
  )

/** Files of a chooser, with their paths below the folder where one was chosen. */
export const filesChosen = (list: FileList): { path: string; file: File }[] =>
  inOrder([...list].filter(isMeant).map((file) => ({ path: file.webkitRelativePath || file.name, file })))
