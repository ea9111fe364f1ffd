import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs'

/** Bytes of a key; written as 43 letters and digits (base64url). */
const KEY_BYTES = 32

/** The key that everybody needs who comes from another machine; made at first use, readable by its owner only. */
export function keyIn(path: string): string {
  if (!existsSync(path)) writeFileSync(path, randomBytes(KEY_BYTES).toString('base64url'), { mode: 0o600, flag: 'wx' })
  chmodSync(path, 0o600)
  return readFileSync(path, 'utf8').trim()
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/** Whether two secrets are the same, in a time that tells nothing of where they differ. */
export const sameSecret = (a: string, b: string): boolean => timingSafeEqual(digest(a), digest(b))

/** What the cookie holds instead of the key itself: who gets hold of it cannot sign in anew with it elsewhere. */
export const sessionOf = (key: string): string => digest(`session of ${key}`).toString('base64url')
