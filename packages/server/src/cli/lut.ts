import { extname } from 'node:path'
import type { EncodingRef } from '@fogbath/core/encodings'
import { type Recipe } from '@fogbath/core/line'
import { LOOK_FORMATS, makeLook, tellError, tellNotHeld, type LookFormat } from '@fogbath/core/look'
import { Fault } from '../errors'
import { checkOutputs, writeOutput } from './outputs'

export interface LutOptions {
  readonly output: string
  readonly takes?: EncodingRef
  readonly gives?: EncodingRef
  readonly size: number
  readonly curves?: boolean
  readonly shaper?: boolean
  readonly leaveOut?: boolean
  readonly force?: boolean
}

/** Writes a look as its file's ending says. @returns what is to be told, line by line */
export async function writeLut(
  recipe: Recipe,
  { output, force = false, inputs, ...options }: LutOptions & { readonly inputs: readonly string[] },
): Promise<string[]> {
  const format = extname(output).slice(1).toLowerCase()
  if (!isFormat(format))
    throw new Fault(
      'usage',
      `The output '${output}' ends in no format of a look; use ${Object.keys(LOOK_FORMATS)
        .map((f) => `.${f}`)
        .join(', ')}.`,
    )
  const { text, shaper, errors, missing } = makeLook(recipe, { format, ...options })
  const files = new Map([[output, text]])
  if (shaper) files.set(shaperPath(output), shaper)
  await checkOutputs([...files.keys()], inputs, force)
  for (const [path, words] of files) await writeOutput(path, words)
  return [
    `${output}: written`,
    ...(shaper ? [`${shaperPath(output)}: written, to be applied first`] : []),
    ...(errors ? [`from the process, CIEDE2000 on wide colours: ${tellError(errors.wide)}`] : []),
    ...missing.map((m) => `not in this file: ${tellNotHeld(m)}`),
  ]
}

/** Beside a file, its shaper's. */
function shaperPath(output: string): string {
  const ending = extname(output)
  return `${output.slice(0, -ending.length)}-shaper${ending}`
}

const isFormat = (text: string): text is LookFormat => text in LOOK_FORMATS
