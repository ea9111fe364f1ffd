import { CUT_WIDTH, CutFinder, type CutOptions } from '@fogbath/core/edits'
import type { MediaInfo } from '@fogbath/contract'
import { decodeFrames } from './decode'
import type { Source } from './source'

/** Codes of frames as they are decoded: whole numbers of 16 bits, or light. */
const FULL = { whole: 65535, light: 1 }

interface Looking {
  /** Called after each frame with how many were looked at. */
  readonly onFrame?: (done: number) => void
  readonly signal?: AbortSignal
}

/** Looks footage through, frame by frame; see {@link CutFinder}. */
export async function lookForCuts(source: Source, info: MediaInfo, { onFrame, signal }: Looking): Promise<CutFinder> {
  const finder = new CutFinder()
  const width = Math.min(CUT_WIDTH, info.width)
  const height = Math.max(1, Math.round((info.height * width) / info.width))
  const all = { first: 0, count: info.frames, width, height, polite: true }
  let done = 0
  for await (const { data } of decodeFrames(source, info, { ...all, ...(signal && { signal }) })) {
    finder.add(data, width, height, info.float ? FULL.light : FULL.whole)
    onFrame?.(++done)
  }
  return finder
}

/** The first frames of the shots that footage holds. */
export const cutsOf = async (source: Source, info: MediaInfo, { onFrame, signal, ...options }: CutOptions & Looking) =>
  (await lookForCuts(source, info, { ...(onFrame && { onFrame }), ...(signal && { signal }) })).end(options)
