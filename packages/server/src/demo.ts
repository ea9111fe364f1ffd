import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { asNewLine, type Recipe } from '@fogbath/core/line'
import { newPart, withPart, type PartType } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import type { Sequelize } from 'sequelize'
import { Medium, Production, Proof, Trial, type Shot } from './db/models'
import { withFile } from './files/inside'
import { readOwn } from './files/own'
import { decodeFrames } from './media/decode'
import { openWriter } from './media/encode'
import type { MediaStore } from './media/store'
import { workFrame } from './render/frame-worker'
import { makeJob } from './render/job'
import { createShot } from './shots/new-shot'

interface DemoShot {
  readonly file: string
  readonly name: string
  readonly encoding: string
  readonly still: number
  /** Recipe of each trial, A first. */
  readonly trials: readonly string[]
  /** A mask on the first bath of trial A. */
  readonly mask?: { readonly type: PartType; readonly settings: Record<string, unknown>; readonly invert: boolean }
  /** Recipes of which proofs are kept. */
  readonly proofs?: readonly string[]
}

/** Width of a proof, as the bench keeps them. */
const PROOF_WIDTH = 960

/** Fills an empty database with the demo production. */
export async function loadDemo(db: Sequelize, store: MediaStore, folder: string): Promise<boolean> {
  if ((await Production.count()) > 0 || (await Medium.count()) > 0) return false
  const scenario = JSON.parse((await readOwn(join(folder, 'demo.json'))).toString('utf8')) as {
    name: string
    notes: string
    shots: DemoShot[]
  }
  const production = await Production.create({ name: scenario.name, notes: scenario.notes })
  for (const wanted of scenario.shots) {
    const { medium } = await withFile(join(folder, 'footage', wanted.file), (file) => store.take(file, wanted.file))
    const shot = await createShot(db, production.id, medium, { name: wanted.name })
    await Trial.destroy({ where: { shotId: shot.id } })
    const trials: Trial[] = []
    // One after the other: their ids give the order in which they are shown.
    for (const [i, id] of wanted.trials.entries()) {
      const recipe = i === 0 ? masked(shipped(id), wanted.mask) : shipped(id)
      trials.push(await Trial.create({ shotId: shot.id, name: String.fromCharCode(65 + i), recipe }))
    }
    await shot.update({ encoding: wanted.encoding, still: wanted.still, trialId: trials[0]!.id })
    for (const id of wanted.proofs ?? []) await keepProof(shot, medium, store, shipped(id))
  }
  return true
}

function shipped(id: string): Recipe {
  const recipe = SHIPPED_RECIPES.find((r) => r.id === id)
  if (!recipe) throw new Error(`The demo names a recipe that is not shipped: ${id}.`)
  return asNewLine(recipe)
}

function masked(recipe: Recipe, mask: DemoShot['mask']): Recipe {
  const [first, ...others] = recipe.baths
  if (!mask || !first) return recipe
  const part = { ...newPart(mask.type, mask.settings), invert: mask.invert }
  return { ...recipe, baths: [{ ...first, mask: withPart(null, part) }, ...others] }
}

/** The telling frame of a shot under a recipe, kept as the bench would keep it. */
async function keepProof(shot: Shot, medium: Medium, store: MediaStore, recipe: Recipe): Promise<void> {
  const { encoding, still, preparation } = shot
  const height = Math.round((medium.info.height * PROOF_WIDTH) / medium.info.width)
  const size = { width: PROOF_WIDTH, height }
  const folder = await mkdtemp(join(tmpdir(), 'fogbath-proof-'))
  try {
    const path = join(folder, 'proof.png')
    const job = makeJob({ recipe, preparation, after: [], encoding }, { format: 'png' })
    const target = { delivery: { format: 'png' }, path, start: 0, ...size, fps: '24', encoding: job.to } as const
    const writer = await openWriter(target)
    const source = store.sourceOf(medium)
    for await (const { data } of decodeFrames(source, medium.info, { first: still, count: 1, ...size }))
      await writer.write(workFrame({ data, ...size, frame: still, job }))
    await writer.end()
    const picture = await readOwn(path)
    await Proof.create({
      shotId: shot.id,
      name: recipe.name,
      frame: still,
      ...size,
      encoding,
      recipe,
      preparation,
      picture,
    })
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
