import { ROUTES } from '@fogbath/contract'
import { checkPart, checkRecipe } from '@fogbath/core/line'
import { Proof, Shot } from '../db/models'
import { deleteRow, findRow, updateRow } from '../db/rows'
import { heldShot } from '../db/shots'
import { Fault } from '../errors'
import { MOST_PROOFS, MOST_PROOF_SIDE } from '../limits'
import { pngSize } from '../png'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

const WITHOUT_PICTURE = { exclude: ['picture'] }

/** The size of a proof's picture, within what is kept. */
function sizeOf(picture: Buffer): { width: number; height: number } {
  const size = pngSize(picture)
  if (!size) throw new Fault('invalid', 'The picture of the proof is not a PNG file.')
  const { width, height } = size
  if (width < 1 || height < 1 || width > MOST_PROOF_SIDE || height > MOST_PROOF_SIDE)
    throw new Fault(
      'invalid',
      `The picture of the proof is ${width}x${height}; each side must lie in 1 to ${MOST_PROOF_SIDE}.`,
    )
  return size
}

/** Proofs: stills kept for comparison, each with the line that made it. They are never changed, only named. */
export function proofRoutes(app: App, { db }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.proofs, async ({ params }) => {
    const shot = await findRow(Shot, params.id, 'shot')
    return Proof.findAll({ where: { shotId: shot.id }, attributes: WITHOUT_PICTURE, order: [['id', 'ASC']] })
  })

  serve(ROUTES.createProof, async ({ params, body: { picture, recipe, ...rest } }) => {
    checkPart('preparation', rest.preparation)
    checkPart('after', rest.after)
    const bytes = Buffer.from(picture, 'base64')
    const fields = { ...rest, ...sizeOf(bytes), picture: bytes, recipe: checkRecipe(recipe) }
    const made = await db.transaction(async (transaction) => {
      const { id, encoding } = await heldShot(params.id, transaction)
      if ((await Proof.count({ where: { shotId: id }, transaction })) >= MOST_PROOFS)
        throw new Fault('invalid', `This shot has ${MOST_PROOFS} proofs, the most that one keeps; remove some first.`)
      return Proof.create({ ...fields, shotId: id, encoding }, { transaction })
    })
    return Proof.findByPk(made.id, { attributes: WITHOUT_PICTURE, rejectOnEmpty: true })
  })

  serve(ROUTES.proofPicture, async ({ params }, reply) => {
    const proof = await findRow(Proof, params.id, 'proof')
    return reply
      .header('content-type', 'image/png')
      .header('cache-control', 'private, max-age=31536000, immutable')
      .send(proof.picture)
  })

  serve(ROUTES.changeProof, async ({ params, body: { revision, name } }) => {
    const { picture: _, ...shown } = (await updateRow(Proof, params.id, revision, { name }, 'proof')).toJSON()
    return shown
  })

  serve(ROUTES.deleteProof, ({ params, query }) => deleteRow(Proof, params.id, query.revision, 'proof'))
}
