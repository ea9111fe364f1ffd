import { TrackSchema, type Track } from '@fogbath/core/tracking'
import { Fault } from '../errors'
import { openRegular, readText } from '../files/inside'
import { parseJson } from '../outside/texts'
import { validator } from '../validate'

/** Letters of a track of the longest shot. */
const MOST_LETTERS = 20e6
const problemOfTrack = validator(TrackSchema)

/** Tracks as `fogbath track -o` writes them, one a file. */
export async function tracksIn(files: readonly string[]): Promise<Track[]> {
  const tracks: Track[] = []
  for (const file of files) {
    const value = parseJson(await readText(openRegular(file), MOST_LETTERS, file), file)
    const problem = problemOfTrack(value, file)
    if (problem) throw new Fault('invalid', problem)
    tracks.push(value as Track)
  }
  return tracks
}
