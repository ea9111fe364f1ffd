import { completeMask, MaskSchema, type Mask, type MaskPart } from '@fogbath/core/masks'
import { newId } from '@fogbath/core/line'
import { ALL_MOTIONS, trackOf, type Motion } from '@fogbath/core/tracking'
import { Fault } from '../errors'
import { openRegular, readText } from '../files/inside'
import { withPlainName } from '../media/plain-name'
import { probe } from '../media/probe'
import { trackShape, type ShapeFound } from '../media/tracking'
import { checkOutputs, writeOutput } from './outputs'
import { parseJson } from '../outside/texts'
import { validator } from '../validate'

const MOST_BYTES = 1e6
const problemOfMask = validator(MaskSchema)

export interface TrackCommand {
  readonly shape: string
  readonly frame: number
  readonly motions?: readonly string[]
  /** Where the track is written. */
  readonly output?: string
  readonly force?: boolean
}

/** Follows a shape, a part of a mask in a file, through a clip. */
export async function trackFile(
  clip: string,
  { shape, frame, motions = ALL_MOTIONS, output, force = false }: TrackCommand,
  more: { readonly onFrame: (done: number, of: number) => void; readonly signal: AbortSignal },
): Promise<ShapeFound & { readonly told: string | null }> {
  if (output !== undefined) await checkOutputs([output], [clip, shape], force)
  const part = await partOf(shape)
  const wrong = motions.find((m) => !ALL_MOTIONS.includes(m as Motion))
  if (wrong) throw new Fault('usage', `'${wrong}' is no motion; the motions are ${ALL_MOTIONS.join(', ')}.`)
  return withPlainName(clip, async (path) => {
    const source = { type: 'file', path } as const
    const info = await probe(source, clip)
    if (frame >= info.frames)
      throw new Fault('usage', `Frame ${frame} of ${clip} does not exist; it has frames 0 to ${info.frames - 1}.`)
    const onFrame = (done: number): void => more.onFrame(done, info.frames)
    const asked = { frame, motions: motions as Motion[] }
    const seen = await trackShape(source, info, part, { ...asked, onFrame, signal: more.signal })
    if (output === undefined) return { ...seen, told: null }
    const id = part.follows ?? newId()
    await writeOutput(output, `${JSON.stringify(trackOf(id, frame, asked.motions, seen))}\n`)
    return { ...seen, told: `${output}: the track ${id}; parts of masks follow it by "follows": "${id}"` }
  })
}

async function partOf(file: string): Promise<MaskPart> {
  const value = parseJson(await readText(openRegular(file), MOST_BYTES, file), file)
  const mask = completeMask({ parts: [value] }, file) as Mask
  const problem = problemOfMask(mask, file)
  if (problem) throw new Fault('invalid', problem)
  return mask.parts[0]!
}
