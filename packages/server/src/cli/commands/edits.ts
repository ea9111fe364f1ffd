import { CUT_DEFAULTS, type CutOptions } from '@fogbath/core/edits'
import { framesASecond } from '@fogbath/core/numbers'
import { InvalidArgumentError, type Command } from 'commander'
import type { TrackCommand } from '../track'
import { print, progressLine, wholeNumber } from './common'

function rate(text: string): string {
  if (!/^\d{1,4}(\.\d{1,6}|\/\d{1,5})?$/.test(text) || !(framesASecond(text) >= 1))
    throw new InvalidArgumentError('It must be frames a second, such as 24, 23.976 or 24000/1001.')
  return text
}

/** Edits, what is cut, and what is followed. @param signal stops what is being looked at */
export function addEdits(program: Command, signal: AbortSignal): void {
  program
    .command('edit')
    .description('list the shots of an edit list with their footage')
    .argument('<list>', 'a CMX 3600 list (.edl) or an OpenTimelineIO timeline (.otio)')
    .requiredOption('--media <folder>', 'where the footage lies, in it or below it')
    .option('--fps <rate>', 'frame rate of a list that says none itself, and of numbered stills', rate, '24')
    .option('--json', 'as JSON')
    .action(async (list: string, o: { media: string; fps: string; json?: boolean }) => {
      const { editShots } = await import('../edit')
      const { shots, left } = await editShots(list, o.media, o.fps)
      for (const sentence of left) process.stderr.write(`fogbath: ${list}: ${sentence}\n`)
      if (o.json) print(JSON.stringify(shots, null, 2))
      else
        for (const s of shots)
          print(`${s.name.padEnd(28)} ${s.found ? `${s.file} ${s.first}-${s.last}` : `not found: ${s.reason}`}`)
    })
  program
    .command('cuts')
    .description('find the cuts of a clip: the first frames of its shots')
    .argument('<clip>')
    .option('--threshold <percent>', 'how different frames of two shots are', Number, CUT_DEFAULTS.threshold)
    .option('--least <frames>', 'frames that a shot has at least', wholeNumber, CUT_DEFAULTS.least)
    .option('--json', 'as JSON')
    .action(async (clip: string, o: CutOptions & { json?: boolean }) => {
      const { probe } = await import('../../media/probe')
      const { withPlainName } = await import('../../media/plain-name')
      const { cutsOf } = await import('../../media/cuts')
      const shots = await withPlainName(clip, async (path) => {
        const source = { type: 'file', path } as const
        const info = await probe(source, clip)
        const told = progressLine()
        return cutsOf(source, info, { ...o, signal, onFrame: (done) => told(done, info.frames) })
      })
      print(o.json ? JSON.stringify(shots) : shots.join('\n'))
    })
  program
    .command('track')
    .description('follow a shape through a clip: where the corners of its frame are, frame by frame')
    .argument('<clip>')
    .requiredOption(
      '--shape <file>',
      'one part of a mask as recipes have it (.json): an ellipse, a rectangle or an outline',
    )
    .option('--frame <n>', 'the frame that shows the shape, counted from 0', wholeNumber, 0)
    .option('--motions <names...>', 'how it may move: move, turn, scale, shear, perspective; all where it is left out')
    .option('-o, --output <path>', 'the track, for fogbath process --tracks; ends in .json')
    .option('--force', 'write over a file that exists')
    .option('--json', 'as JSON')
    .action(async (clip: string, o: TrackCommand & { json?: boolean }) => {
      const { trackFile } = await import('../track')
      const { found, lost, told } = await trackFile(clip, o, { onFrame: progressLine(), signal })
      if (told) process.stderr.write(`fogbath: ${told}\n`)
      for (const frame of lost) process.stderr.write(`fogbath: ${clip}: the shape is lost in frame ${frame}\n`)
      if (o.json) print(JSON.stringify(found))
      else
        for (const { frame, corners, used } of found) {
          const places = corners.map(({ x, y }) => `${x.toFixed(2)} ${y.toFixed(2)}`)
          print(`${frame}: ${places.join(', ')}; ${Math.round(100 * used)} % used`)
        }
    })
}
