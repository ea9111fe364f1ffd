import type { MediaInfo } from '@fogbath/contract'
import { openRegular } from '../files/inside'
import { decodeFrames } from './decode'
import { headOf } from './head'
import { probe } from './probe'
import type { Source } from './source'
import { speedOf } from './speed'

const STEPS = 1024
const WIDTH = 160
/** Share of codes at either end that is not looked at: specks, and the rims of pictures. */
const END = 0.001

/** What is kept of footage: what probing says, how it begins, how far its codes go, how quickly it decodes. */
export async function describe(source: Source, label: string): Promise<MediaInfo> {
  const info = await probe(source, label)
  const head = source.type === 'file' ? { head: await headOf(openRegular(source.path)) } : {}
  return { ...info, ...head, ...(await reachOf(source, info)), ...(await speedOf(source, info)) }
}

/** From which code to which footage of whole numbers goes, at three places; nothing of floats, whose numbers are light. */
export async function reachOf(source: Source, info: MediaInfo): Promise<Pick<MediaInfo, 'reach'>> {
  if (info.float) return {}
  const counts = new Float64Array(STEPS)
  const places = new Set([0.25, 0.5, 0.75].map((share) => Math.floor(share * (info.frames - 1))))
  const width = Math.min(WIDTH, info.width)
  const size = { width, height: Math.max(1, Math.round((info.height * width) / info.width)) }
  for (const first of places)
    for await (const { data } of decodeFrames(source, info, { first, count: 1, ...size }))
      for (const code of data) counts[code >> 6]!++
  return { reach: { low: shareAt(counts, END), middle: shareAt(counts, 0.5), high: shareAt(counts, 1 - END) } }
}

/** The code, 0..1, below which a share of all lies. */
function shareAt(counts: Float64Array, share: number): number {
  const wanted = share * counts.reduce((sum, n) => sum + n, 0)
  let sum = 0
  const at = counts.findIndex((n) => (sum += n) >= wanted)
  return Math.max(0, at) / (STEPS - 1)
}
