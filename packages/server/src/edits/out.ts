import { decisionIn, plainCut, writeCmx, writeOtio, type ListedShot } from '@fogbath/core/edits'
import { readAs } from '@fogbath/core/footage'
import { framesASecond } from '@fogbath/core/numbers'
import { Medium, Trial, type Production, type Shot } from '../db/models'
import { Fault } from '../errors'
import { shotsInOrder } from './plan'

/** Of a list of nothing but stills. */
const USUAL_RATE = '24'

/** A production as an edit list. @param fps rate of the list; that of its first clip when left out */
export async function editOf(production: Production, form: 'edl' | 'otio', fps?: string): Promise<string> {
  const shots = await shotsInOrder(production.id, null)
  if (shots.length === 0) throw new Fault('invalid', `${production.name} has no shots.`)
  const media = await Medium.findAll({ where: { id: [...new Set(shots.map((s) => s.mediumId))] } })
  const trials = await Trial.findAll({ where: { id: shots.flatMap((s) => s.trialId ?? []) } })
  const byId = new Map(media.map((m) => [m.id, m]))
  const listed = shots.map((shot) =>
    listedShot(
      shot,
      byId.get(shot.mediumId)!,
      trials.find((t) => t.id === shot.trialId),
    ),
  )
  if (form === 'otio') return writeOtio(production.name, listed)
  const clip = listed.find((shot) => framesASecond(shot.fps) > 0)
  const drops = clip?.timecode?.includes(';') ?? false
  return writeCmx(production.name, listed, fps ?? clip?.fps ?? USUAL_RATE, drops)
}

function listedShot(shot: Shot, medium: Medium, trial: Trial | undefined): ListedShot {
  const { name, first, last, encoding, reading, preparation } = shot
  const { frames, fps, timecode } = readAs(medium.info, reading)
  const look = trial && { recipe: trial.recipe, after: trial.after }
  return {
    name,
    file: medium.name,
    fps,
    frames,
    ...(timecode && { timecode }),
    first,
    last,
    cut: shot.cut ?? plainCut(shot),
    decision: decisionIn(preparation),
    metadata: { fogbath: { sha256: medium.sha256, encoding, reading, preparation, ...look } },
  }
}
