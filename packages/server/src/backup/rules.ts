import type { MediaInfo } from '@fogbath/contract'
import { defineEncoding } from '@fogbath/core/encodings'
import { readAs } from '@fogbath/core/footage'
import { checkPart, checkRecipe, checkStep } from '@fogbath/core/line'
import { checkTracks } from '@fogbath/core/tracking'
import { Fault } from '../errors'
import { MOST_PROOFS, checkFrames } from '../limits'
import { mediumPaths, type Contents, type ContentsShot } from './contents'

/**
 * What no schema says of a backup's contents: that references hold, that nothing has two of what is one of a kind, and the
 * rules that requests are held to as well. Throws a sentence.
 * @param sizeOf bytes of an entry of the archive, undefined where it has none
 */
export function checkContents(contents: Contents, sizeOf: (path: string) => number | undefined): void {
  const { productions, media, shelf = [], masks = [] } = contents
  once(media, (m) => m.sha256, 'footage')
  once(shelf, (r) => r.key, 'recipe of the shelf')
  once(masks, (m) => m.key, 'mask')
  once(
    productions.flatMap(({ shots }) => shots.flatMap(({ trials }) => trials)),
    (t) => String(t.ref),
    'trial',
  )
  for (const medium of media) {
    const paths = mediumPaths(medium)
    const sizes = paths.map((path) => sizeOf(path) ?? fail(`${path} is missing`))
    if (paths.length > 0 && sizes.reduce((sum, size) => sum + size, 0) !== medium.size)
      fail(`the footage ${medium.name} is not ${medium.size} bytes long`)
    if (medium.sequence && paths.length > 0 && paths.length !== medium.info.frames)
      fail(`the footage ${medium.name} has ${paths.length} stills for ${medium.info.frames} frames`)
  }
  const own = new Set((contents.encodings ?? []).map((draft) => defineEncoding(draft).id))
  for (const { shots } of productions) for (const shot of shots) checkEncodings(shot, own)
  for (const { versions } of shelf) for (const { recipe } of versions) checkRecipe(recipe)
  const infos = new Map(media.map((m) => [m.sha256, m.info]))
  for (const { shots } of productions) for (const shot of shots) checkShot(shot, infos.get(shot.medium), sizeOf)
}

/** Encodings of one's own that are named came along. */
function checkEncodings({ name, encoding, proofs }: ContentsShot, own: ReadonlySet<string>): void {
  const lost = [encoding, ...proofs.map((p) => p.encoding)].find((id) => id.startsWith('own-') && !own.has(id))
  if (lost) fail(`the shot ${name} is taken for the encoding ${lost}, which did not come along`)
}

function checkShot(
  shot: ContentsShot,
  info: MediaInfo | undefined,
  sizeOf: (path: string) => number | undefined,
): void {
  const { name, trials, chosen, proofs, edits } = shot
  if (!info) return fail(`the shot ${name} names footage that it does not list`)
  checkFrames(shot, info)
  if (chosen !== null && !trials.some((t) => t.ref === chosen))
    fail(`the shot ${name} has chosen a trial that it does not have`)
  if (proofs.length > MOST_PROOFS) fail(`the shot ${name} has more than ${MOST_PROOFS} proofs`)
  once(edits, ({ kept }) => kept.key, `step of undo of ${name}`)
  for (const { recipe } of [...trials, ...proofs]) checkRecipe(recipe)
  checkPart('preparation', shot.preparation)
  checkTracks(shot.tracks ?? [], readAs(info, shot.reading ?? {}).frames)
  for (const { after } of [...trials, ...proofs]) checkPart('after', after)
  for (const { preparation } of proofs) checkPart('preparation', preparation)
  for (const { kept } of edits) checkStep(kept.step)
  for (const { picture } of proofs) if (sizeOf(picture) === undefined) fail(`${picture} is missing`)
}

function once<T>(things: readonly T[], keyOf: (thing: T) => string, what: string): void {
  const seen = new Set<string>()
  for (const thing of things) {
    const key = keyOf(thing)
    if (seen.has(key)) fail(`it has the ${what} ${key} twice`)
    seen.add(key)
  }
}

function fail(why: string): never {
  throw new Fault('media', why)
}
