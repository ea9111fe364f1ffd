import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { chmod } from 'node:fs/promises'
import { Fault } from '../errors'
import { readOwn } from '../files/own'
import { writeWhole } from '../files/writing'

/** Bytes of a key that is made here; written as 43 letters and digits (base64url). */
const KEY_BYTES = 32
/** A shorter one could be guessed. */
const LEAST_LETTERS = 32

/**
 * The key that everybody needs who comes from another machine; made at first use, readable by its owner only.
 * @throws Fault where the file holds no key: then it was cut short, or written by hand
 */
export async function keyIn(path: string): Promise<string> {
  const before = await readOwn(path).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return null
    throw new Fault('program', `The key in ${path} cannot be read (${error.code}).`)
  })
  if (before === null)
    await writeWhole(path, randomBytes(KEY_BYTES).toString('base64url'), { mode: 0o600, fresh: true })
  const key = (before ?? (await readOwn(path))).toString('utf8').trim()
  if (Buffer.byteLength(key) < LEAST_LETTERS)
    throw new Fault(
      'program',
      `The key in ${path} is ${Buffer.byteLength(key)} bytes long; it must be at least ${LEAST_LETTERS}. Remove the file, and the next start makes a new key.`,
    )
  await chmod(path, 0o600)
  return key
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/** Whether two secrets are the same, in a time that tells nothing of where they differ. */
export const sameSecret = (a: string, b: string): boolean => timingSafeEqual(digest(a), digest(b))

/** What the cookie holds instead of the key itself: who gets hold of it cannot sign in anew with it elsewhere. */
export const sessionOf = (key: string): string => digest(`session of ${key}`).toString('base64url')
