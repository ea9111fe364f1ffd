import { kindById } from '../baths/kinds'
import { FINISH } from '../film/ends'
import { memoized } from '../numbers/memoized'
import type { BathWork } from '../plan/work'
import type { Stage } from '../stages/stage'
import type { Bath } from './recipe'
import { UNPRINTED } from './unprinted'

/** The stages of the baths last seen: film models are not built again. */
const stagesFor = memoized(200, (kind: string, settings: Bath['settings']) => kindById(kind).stages(settings))

/** What a bath does. A process ends in code values; steps on neighbours behind its last point stage work on those. */
export function workOf(bath: Bath): BathWork {
  const { stretch, strand, inside } = kindById(bath.kind)
  const own = stagesFor(bath.kind, bath.settings)
  const { id, lay, under, strength, mask } = bath
  const rest = { id, how: { lay, under, strength }, mask, inside: inside?.(bath.settings) ?? stretch === 'process' }
  const from = bath.takes === 'camera' ? 'untreated' : 'line'
  if (strand) return { ...rest, from, stages: [], strand: strand(bath.settings).filter(atWork).map(workOf) }
  if (stretch === 'prepare') return { ...rest, from: 'prepare', stages: own }
  if (stretch === 'finish') return { ...rest, from, stages: own }
  const stages = finished(own)
  if (bath.takes === 'camera') return { ...rest, from: 'camera', stages }
  // The picture so far, photographed again.
  return { ...rest, from: 'line', stages: [...UNPRINTED, ...stages] }
}

function finished(stages: readonly Stage[]): Stage[] {
  const behind = stages.findLastIndex((s) => s.at !== 'space') + 1
  return [...stages.slice(0, behind), ...FINISH, ...stages.slice(behind)]
}

/** What a bath is set to, as its kind knows it. */
export const settingsOf = <S>({ settings }: Bath): S => settings as S

/** Baths that do something: in the line, not at strength 0. */
export const atWork = (bath: Bath): boolean => bath.in && bath.strength > 0

const seesNeighbours = ({ stages, strand }: BathWork): boolean =>
  stages.some((s) => s.at === 'space') || (strand?.some(seesNeighbours) ?? false)

/** Whether a bath does something by place or neighbourhood, which the plain form leaves out. */
export const worksInSpace = (bath: Bath): boolean => seesNeighbours(workOf(bath))
