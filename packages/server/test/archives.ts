import { createHash } from 'node:crypto'
import { buffer } from 'node:stream/consumers'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import yazl from 'yazl'

/** Backups made by hand, as somebody might who means no good. */

export const sha256Of = (bytes: Buffer | string): string => createHash('sha256').update(bytes).digest('hex')

/** An archive of entries as they are. */
export function zipOf(entries: Readonly<Record<string, Buffer | string>>, compress = true): Promise<Buffer> {
  const zip = new yazl.ZipFile()
  for (const [name, content] of Object.entries(entries)) zip.addBuffer(Buffer.from(content), name, { compress })
  zip.end()
  return buffer(zip.outputStream as NodeJS.ReadableStream)
}

/** With a manifest that names its entries rightly. */
export function backupOf(
  contents: unknown,
  more: Readonly<Record<string, Buffer>> = {},
  manifest: object = {},
): Promise<Buffer> {
  const files: Record<string, Buffer> = {
    ...more,
    'contents.json': Buffer.from(typeof contents === 'string' ? contents : JSON.stringify(contents)),
  }
  const entries = Object.entries(files).map(([path, bytes]) => ({ path, sha256: sha256Of(bytes), size: bytes.length }))
  const told = { format: 'fogbath-backup', version: 1, madeAt: '2026-01-01T00:00:00Z', entries, ...manifest }
  return zipOf({ ...files, 'manifest.json': JSON.stringify(told) })
}

export const INFO = {
  kind: 'clip',
  width: 160,
  height: 96,
  frames: 48,
  fps: '24/1',
  codec: 'h264',
  pixelFormat: 'yuv420p10le',
  bits: 10,
  float: false,
  matrix: '709',
  range: 'limited',
  encoding: 'bt1886',
  warnings: [],
}

/** A backup of one production with one shot of footage that does not go along; with what is changed in it. */
export function contentsWith(sha256: string, change: { shot?: object; medium?: object; more?: object } = {}) {
  const recipe = SHIPPED_RECIPES[0]!
  const shot = {
    name: 'One',
    medium: sha256,
    first: 0,
    last: 47,
    still: 1,
    encoding: 'bt1886',
    preparation: [],
    marks: null,
    chosen: 1,
    trials: [{ ref: 1, name: 'A', recipe, after: [] }],
    edits: [],
    proofs: [],
    ...change.shot,
  }
  const medium = { sha256, name: 'clip.mp4', size: 10, sequence: '', files: 0, info: INFO, ...change.medium }
  return { productions: [{ name: 'Crafted', notes: '', shots: [shot] }], media: [medium], ...change.more }
}
