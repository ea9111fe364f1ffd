import { existsSync } from 'node:fs'
import { rename, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { deliveryFormat, type ClipFormat, type DeliveryId } from '@fogbath/core/delivery'
import { Fault } from '../errors'
import { AN_HOUR, SAFE_INPUT, ffprobe, runFfmpeg, writeFailure } from '../media/ffmpeg'
import { REPEATABLE, noteArgs, type ClipNotes } from '../media/encode'
import { soundInput, soundOutput, type Sound } from '../media/sound'

/** Only clips have parts. */
function clipOf(id: DeliveryId): ClipFormat {
  const format = deliveryFormat(id)
  if (!format.moving) throw new Fault('program', `${id} is no clip; its stills are not joined.`)
  return format
}

/** Whether a clip is there with all its frames. */
export async function isWhole(file: string, frames: number): Promise<boolean> {
  if (!existsSync(file)) return false
  const counted = [
    '-select_streams',
    'v:0',
    '-count_packets',
    '-show_entries',
    'stream=nb_read_packets',
    `file:${file}`,
  ]
  const found = (await ffprobe(counted).catch(() => null)) as { streams?: { nb_read_packets?: string }[] } | null
  return Number(found?.streams?.[0]?.nb_read_packets ?? 0) === frames
}

/** Puts the parts of a clip end to end without touching their pictures, and the sound of the footage to them. */
export async function joinParts(
  parts: readonly string[],
  file: string,
  format: DeliveryId,
  sound: Sound | null,
  notes?: ClipNotes,
): Promise<void> {
  const folder = join(file, '..')
  const list = join(folder, 'parts.txt')
  const names = parts.map((p) => `file '${p.replace(/'/g, "'\\''")}'`)
  await writeFile(list, ['ffconcat version 1.0', ...names].join('\n'))
  const { container } = clipOf(format)
  const staged = join(folder, `whole.${container.ending}`)
  const failed = await runFfmpeg(
    [
      ...['-y', ...SAFE_INPUT.slice(0, 2), '-f', 'concat', '-safe', '0', '-i', `file:${list}`],
      ...(sound ? [...soundInput(sound), ...soundOutput(container.sound, sound)] : []),
      ...['-c:v', 'copy', ...(notes ? noteArgs(notes) : []), ...REPEATABLE, ...container.flags],
      ...['-f', container.muxer, `file:${staged}`],
    ],
    AN_HOUR,
    { polite: true },
  )
  if (failed) throw new Fault('program', `The parts could not be joined: ${writeFailure(failed)}.`)
  await rename(staged, file)
}
