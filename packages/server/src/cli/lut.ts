import { writeFile } from 'node:fs/promises'
import { extname } from 'node:path'
import { LOOK_FORMATS, makeLook, tellError, tellNotHeld, type LookFormat, type Recipe } from '@fogbath/core'
import { Fault } from '../errors'
import { checkOutputs } from './outputs'

export interface LutOptions {
  readonly output: string
  readonly takes: string
  readonly gives: string
  readonly size: number
  readonly curves?: boolean
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
  const { text, errors, missing } = makeLook(recipe, { format, ...options })
  await checkOutputs([output], inputs, force)
  await writeFile(output, text)
  return [
    `${output}: written`,
    ...(errors ? [`from the process, CIEDE2000 on wide colours: ${tellError(errors.wide)}`] : []),
    ...missing.map((m) => `not in this file: ${tellNotHeld(m)}`),
  ]
}

const isFormat = (text: string): text is LookFormat => text in LOOK_FORMATS
