import { three } from '../colour/matrix'
import type { Laying } from '../lay/blend'
import { layOne } from '../lay/blend'
import { SLOT, type Plan, type RunStep, type Slot } from '../plan/plan'
import { chain, nothing, plainStages } from '../stages/plain'
import type { PointFunction, PointStage } from '../stages/stage'

/**
 * A line as one chain of links from the camera to the screen. Where a plan lays one picture on another, both chains are
 * kept, from where they part.
 */
export type Link =
  | { readonly link: 'stage'; readonly stage: PointStage }
  | { readonly link: 'lay'; readonly own: Chain; readonly line: Chain; readonly how: Laying }
export type Chain = readonly Link[]

/** @param plan of colours alone: neither masks nor neighbours */
export function chainOf({ ops }: Plan): Chain {
  const slots = new Map<Slot, Chain>([[SLOT.CAMERA, []]])
  const held: Record<'own' | 'line', Chain> = { own: [], line: [] }
  for (const op of ops) {
    if (op.op !== 'run') throw new Error(`A chain of colours cannot hold a step of the kind '${op.op}'.`)
    for (const step of op.steps) follow(step, held, slots)
  }
  return slots.get(SLOT.LINE)!
}

function follow(step: RunStep, held: Record<'own' | 'line', Chain>, slots: Map<Slot, Chain>): void {
  switch (step.do) {
    case 'load':
      held[step.register] = slots.get(step.slot)!
      return
    case 'store':
      slots.set(step.slot, held[step.register])
      return
    case 'keep':
      held.line = held.own
      return
    case 'take':
      held.own = held.line
      return
    case 'stage':
      held.own = [...held.own, { link: 'stage', stage: step.stage }]
      return
    case 'lay':
      held.own = held.line = laid(held.own, held.line, step.how)
  }
}

/** Two chains from where they part. */
function laid(own: Chain, line: Chain, how: Laying): Chain {
  let same = 0
  while (same < own.length && own[same] === line[same]) same++
  return [...own.slice(0, same), { link: 'lay', own: own.slice(same), line: line.slice(same), how }]
}

/** Links one after the other in double precision. */
export const plainChain = (links: Chain): PointFunction => links.map(plainLink).reduce(chain, nothing)

function plainLink(link: Link): PointFunction {
  if (link.link === 'stage') return plainStages([link.stage])
  const [own, line] = [plainChain(link.own), plainChain(link.line)]
  const [above, below] = [three(), three()]
  return (r, g, b, out) => {
    own(r, g, b, above)
    line(r, g, b, below)
    nothing(...layOne(link.how, [below[0], below[1], below[2]], [above[0], above[1], above[2]]), out)
  }
}
