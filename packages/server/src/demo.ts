import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { SHIPPED_RECIPES, asNewLine, type Recipe } from '@fogbath/core'
import type { Sequelize } from 'sequelize'
import { Medium, Production, Trial } from './db/models'
import { createShot } from './http/shots'
import { withFile } from './media/source'
import type { MediaStore } from './media/store'

interface DemoShot {
  readonly file: string
  readonly name: string
  readonly encoding: string
  readonly still: number
  /** Recipe of each trial, A first. */
  readonly trials: readonly string[]
}

/** Fills an empty database with the demo production. */
export async function loadDemo(db: Sequelize, store: MediaStore, folder: string): Promise<boolean> {
  if ((await Production.count()) > 0 || (await Medium.count()) > 0) return false
  const scenario = JSON.parse(await readFile(join(folder, 'demo.json'), 'utf8')) as {
    name: string
    notes: string
    shots: DemoShot[]
  }
  const production = await Production.create({ name: scenario.name, notes: scenario.notes })
  for (const wanted of scenario.shots) {
    const medium = await withFile(join(folder, 'footage', wanted.file), (file) => store.take(file, wanted.file))
    const shot = await createShot(db, production.id, medium, wanted.name)
    await Trial.destroy({ where: { shotId: shot.id } })
    const trials: Trial[] = []
    // One after the other: their ids give the order in which they are shown.
    for (const [i, id] of wanted.trials.entries())
      trials.push(await Trial.create({ shotId: shot.id, name: String.fromCharCode(65 + i), recipe: shipped(id) }))
    await shot.update({ encoding: wanted.encoding, still: wanted.still, trialId: trials[0]!.id })
  }
  return true
}

function shipped(id: string): Recipe {
  const recipe = SHIPPED_RECIPES.find((r) => r.id === id)
  if (!recipe) throw new Error(`The demo names a recipe that is not shipped: ${id}.`)
  return asNewLine(recipe)
}
