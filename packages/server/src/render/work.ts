import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { deliveryFormat } from '@fogbath/core/delivery'
import type { EncodingRef } from '@fogbath/core/encodings'
import { secondsOf } from '@fogbath/core/numbers'
import { RenderPart, type Render } from '../db/models'
import { joinSound, soundOf, type Sound } from '../media/sound'
import type { MediaStore } from '../media/store'
import { encodingRefOf } from '../shelf/encodings'
import { burnInOf, deliveryOf, leadOf, notesOf, rateOf, slateOf } from './delivery'
import type { RenderFiles } from './files'
import { makeJob } from './job'
import { isWhole, joinParts } from './join'
import { piecesOf, runsOf, toldOf, type FoundPiece, type Run } from './pieces'
import type { FramePool } from './pool'
import { runFrames } from './run'

export interface Work {
  readonly files: RenderFiles
  readonly store: MediaStore
  readonly pool: FramePool
  readonly signal: AbortSignal
  /** Told when it begins, with the pixels of a frame and how many frames are there already. */
  readonly onBegin: (done: number, pixels: number) => void
  readonly onFrame: (done: number) => void
}

/** Renders what is not there yet, part by part, and puts a clip together. */
export async function renderAll(render: Render, work: Work): Promise<void> {
  const pieces = await piecesOf(render)
  await mkdir(work.files.folderOf(render), { recursive: true })
  const parts = await RenderPart.findAll({ where: { renderId: render.id } })
  const whole = new Set(parts.map((p) => p.first))
  // Counted from the parts: the row may have been cut off from its last step by a kill.
  let done = parts.reduce((sum, p) => sum + p.count, 0)
  await render.update({ done })
  const { width, height } = pieces[0]!.medium.info
  work.onBegin(done, width * height)
  const to = deliveryOf(render).to === undefined ? undefined : await encodingRefOf(deliveryOf(render).to!)
  let isFirst = true
  for (const run of runsOf(render, pieces)) {
    const slated = isFirst && leadOf(deliveryOf(render)) > 0
    isFirst = false
    if (whole.has(run.at)) continue
    await renderPart(render, pieces, run, slated, to, { ...work, onFrame: (n) => work.onFrame(done + n) })
    done += run.count
    await RenderPart.create({ renderId: render.id, first: run.at, count: run.count })
    await render.update({ done })
  }
  if (deliveryFormat(render.format).moving) await joinAll(render, pieces, work)
}

async function renderPart(
  render: Render,
  pieces: readonly FoundPiece[],
  { piece, first, count, at }: Run,
  slated: boolean,
  to: EncodingRef | undefined,
  { files, store, pool, signal, onFrame }: Work,
): Promise<void> {
  const { recipe, preparation, after, encoding, medium, time } = piece
  const delivery = deliveryOf(render)
  const line = { recipe, preparation, after, time: time ?? undefined }
  const job = makeJob({ ...line, encoding: await encodingRefOf(encoding) }, delivery, to)
  const told = { label: piece.label, look: recipe.name, info: medium.info, first, count }
  await runFrames({
    source: store.sourceOf(medium),
    info: medium.info,
    first,
    count,
    job,
    target: {
      delivery,
      path: files.partOf(render, at),
      start: at,
      fps: rateOf(medium.info.fps),
      encoding: job.to,
      burnIn: burnInOf(delivery, told, slated),
      slate: slated ? slateOf(delivery, toldOf(render, pieces), render.edition, job.to) : null,
    },
    pool,
    polite: true,
    signal,
    onFrame,
  })
}

/** One that was joined already, before a restart, is taken as it is when it is whole. */
async function joinAll(render: Render, pieces: readonly FoundPiece[], { files, store }: Work): Promise<void> {
  const delivery = deliveryOf(render)
  const file = files.fileOf(render)
  if (await isWhole(file, render.count + leadOf(delivery))) return
  const parts = await RenderPart.findAll({ where: { renderId: render.id }, order: [['first', 'ASC']] })
  const sounds = pieces.map(({ medium, first, count }) => soundOf(store.sourceOf(medium), medium.info, first, count))
  const { fps } = pieces[0]!.medium.info
  const sound = delivery.sound === false ? null : await oneSound(render, pieces, sounds, files)
  const after = leadOf(delivery) > 0 ? secondsOf(leadOf(delivery), rateOf(fps)) : 0
  await joinParts(
    parts.map((p) => files.partOf(render, p.first)),
    file,
    render.format,
    sound && { ...sound, after },
    notesOf(delivery, toldOf(render, pieces), render.edition),
  )
}

/** The sound of one piece as it is; of several as one file. */
async function oneSound(
  render: Render,
  pieces: readonly FoundPiece[],
  sounds: readonly (Sound | null)[],
  files: RenderFiles,
): Promise<Sound | null> {
  if (pieces.length === 1) return sounds[0]!
  const heard = sounds.map((sound, i) => (pieces[i]!.medium.info.sound ? sound : null))
  if (heard.every((sound) => sound === null)) return null
  const path = join(files.folderOf(render), 'part-sound.mov')
  const lengths = pieces.map(({ count, medium }) => secondsOf(count, rateOf(medium.info.fps)))
  await joinSound(heard, lengths, path)
  return { source: { type: 'file', path }, from: 0, length: lengths.reduce((sum, n) => sum + n, 0) }
}
