import { MOST_LETTERS } from '@fogbath/core/line'
import type { Sequelize } from 'sequelize'
import { Production, Proof, Shot, Trial } from '../db/models'

/** Copies a production with its shots, trials and proofs; the footage is shared. */
export async function copyProduction(db: Sequelize, production: Production): Promise<Production> {
  return db.transaction(async (transaction) => {
    const { name, notes } = production
    const copy = await Production.create(
      { name: `${name} (copy)`.slice(0, MOST_LETTERS.production), notes },
      { transaction },
    )
    for (const shot of await Shot.findAll({ where: { productionId: production.id }, transaction })) {
      const { mediumId, name: called, position, first, last, still, encoding, reading, preparation, marks } = shot
      const frames = { first, last, still }
      const twin = await Shot.create(
        { productionId: copy.id, mediumId, name: called, position, ...frames, encoding, reading, preparation, marks },
        { transaction },
      )
      for (const trial of await Trial.findAll({ where: { shotId: shot.id }, order: [['id', 'ASC']], transaction })) {
        const made = await Trial.create(
          { shotId: twin.id, name: trial.name, recipe: trial.recipe, after: trial.after },
          { transaction },
        )
        if (trial.id === shot.trialId) await twin.update({ trialId: made.id }, { transaction })
      }
      for (const proof of await Proof.findAll({ where: { shotId: shot.id }, order: [['id', 'ASC']], transaction })) {
        const { id: _, ...kept } = proof.toJSON()
        await Proof.create({ ...kept, revision: 1, shotId: twin.id }, { transaction })
      }
    }
    return copy
  })
}
