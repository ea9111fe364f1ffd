import { MOST_LETTERS } from '@fogbath/core/line'
import type { Sequelize } from 'sequelize'
import { KeptList, Production, Proof, Shot } from '../db/models'
import { copyShot } from '../shots/new-shot'

/** Copies a production with its shots, trials and proofs; the footage is shared. */
export async function copyProduction(db: Sequelize, production: Production): Promise<Production> {
  return db.transaction(async (transaction) => {
    const { name, notes } = production
    const copy = await Production.create(
      { name: `${name} (copy)`.slice(0, MOST_LETTERS.production), notes },
      { transaction },
    )
    for (const shot of await Shot.findAll({ where: { productionId: production.id }, transaction })) {
      const twin = await copyShot(shot, { productionId: copy.id }, transaction)
      for (const proof of await Proof.findAll({ where: { shotId: shot.id }, order: [['id', 'ASC']], transaction })) {
        const { id: _, ...kept } = proof.toJSON()
        await Proof.create({ ...kept, revision: 1, shotId: twin.id }, { transaction })
      }
    }
    const list = await KeptList.findByPk(production.id, { transaction })
    if (list) await KeptList.create({ ...list.toJSON(), productionId: copy.id }, { transaction })
    return copy
  })
}
