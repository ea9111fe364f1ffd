import { FogBathError } from '../errors'
import { readCmx } from './cmx'
import type { EditList } from './event'
import { readOtio } from './otio'

export * from './changes'
export * from './cut'
export * from './cuts'
export * from './event'
export * from './find'
export { writeCmx } from './cmx-write'
export { writeOtio } from './otio-write'

/**
 * Reads an edit list by its name's ending: `.edl` (CMX 3600) or `.otio` (OpenTimelineIO).
 * @param fps rate of a list that says none itself
 */
export function readEdit(name: string, text: string, fps: string): EditList {
  const ending = /\.\w+$/.exec(name)?.[0].toLowerCase()
  if (ending === '.edl') return readCmx(text, fps)
  if (ending === '.otio') return readOtio(text)
  throw new FogBathError('format', 'edit', `${name} is no edit list that can be read; it must end in .edl or .otio.`)
}
