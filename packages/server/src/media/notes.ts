import { rm } from 'node:fs/promises'
import { readOwn } from '../files/own'
import { writeWhole } from '../files/writing'
import type { MediaInfo } from '@fogbath/contract'

/**
 * What is known of footage beside its bytes. It lies beside them, so that it is still known where the database is another
 * one.
 */
export interface FootageNote {
  readonly name: string
  /** Ending of the numbered files of a sequence, or empty for one file. */
  readonly sequence: string
  readonly size: number
  readonly info: MediaInfo
  /** When the bytes were held against their hash last, how they lay there, and what came of it. */
  readonly proved?: { readonly at: string; readonly mark: string; readonly right: boolean }
  /** Since when no shot and no render uses it, as far as the program has seen. */
  readonly unusedSince?: string
}

const notePathOf = (footage: string): string => `${footage}.json`

/** @param footage path of the file or folder; null where there is no note, or none that can be read */
export async function readNote(footage: string): Promise<FootageNote | null> {
  try {
    return JSON.parse((await readOwn(notePathOf(footage))).toString('utf8')) as FootageNote
  } catch {
    return null
  }
}

export const writeNote = (footage: string, note: FootageNote): Promise<void> =>
  writeWhole(notePathOf(footage), JSON.stringify(note))

export const dropNote = (footage: string): Promise<void> => rm(notePathOf(footage), { force: true })
