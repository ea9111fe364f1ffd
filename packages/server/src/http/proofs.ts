import { checkRecipe, type Recipe } from '@fogbath/core'
import { Proof, Shot } from '../db/models'
import { deleteRow, findRow, updateRow } from '../db/rows'
import { heldShot } from '../db/shots'
import { Fault } from '../errors'
import type { App, Context } from './context'
import { IdParams, NewProof, ProofChange, RevisionQuery } from './schemas'

/** A kept still at preview size, as PNG; base64 adds a third. */
const MOST_BODY = 24e6
/** Proofs of one shot; as many fill a wall several screens high, and some hundreds of MB. */
export const MOST_PROOFS = 200
const WITHOUT_PICTURE = { exclude: ['picture'] }

/** Width and height from the header of a PNG file (ISO/IEC 15948, 5.2 and 11.2.2). */
function pngSize(bytes: Buffer): { width: number; height: number } {
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  if (bytes.length < 33 || !bytes.subarray(0, 8).equals(signature) || bytes.toString('latin1', 12, 16) !== 'IHDR')
    throw new Fault('invalid', 'The picture of the proof is not a PNG file.')
  const [width, height] = [bytes.readUInt32BE(16), bytes.readUInt32BE(20)]
  if (width < 1 || height < 1 || width > 8192 || height > 8192)
    throw new Fault('invalid', `The picture of the proof is ${width}x${height}; each side must lie in 1 to 8192.`)
  return { width, height }
}

/** Proofs: stills kept for comparison, each with the recipe and trims that made it. They are never changed, only named. */
export function proofRoutes(app: App, { db }: Context): void {
  app.get('/api/shots/:id/proofs', { schema: { params: IdParams } }, async (request) => {
    const shot = await findRow(Shot, Number(request.params.id), 'shot')
    return Proof.findAll({ where: { shotId: shot.id }, attributes: WITHOUT_PICTURE, order: [['id', 'ASC']] })
  })

  app.post(
    '/api/shots/:id/proofs',
    { schema: { params: IdParams, body: NewProof }, bodyLimit: MOST_BODY },
    async (request, reply) => {
      const { picture, recipe, ...rest } = request.body
      const bytes = Buffer.from(picture, 'base64')
      const fields = { ...rest, ...pngSize(bytes), picture: bytes, recipe: checkRecipe(recipe as unknown as Recipe) }
      const made = await db.transaction(async (transaction) => {
        const { id, encoding } = await heldShot(Number(request.params.id), transaction)
        if ((await Proof.count({ where: { shotId: id }, transaction })) >= MOST_PROOFS)
          throw new Fault('invalid', `This shot has ${MOST_PROOFS} proofs, the most that one keeps; remove some first.`)
        return Proof.create({ ...fields, shotId: id, encoding }, { transaction })
      })
      return reply.status(201).send(await Proof.findByPk(made.id, { attributes: WITHOUT_PICTURE }))
    },
  )

  app.get('/api/proofs/:id/picture', { schema: { params: IdParams } }, async (request, reply) => {
    const proof = await findRow(Proof, Number(request.params.id), 'proof')
    return reply
      .header('content-type', 'image/png')
      .header('cache-control', 'private, max-age=31536000, immutable')
      .send(proof.picture)
  })

  app.patch('/api/proofs/:id', { schema: { params: IdParams, body: ProofChange } }, async (request) => {
    const { revision, name } = request.body
    const { picture: _, ...shown } = (
      await updateRow(Proof, Number(request.params.id), revision, { name }, 'proof')
    ).toJSON()
    return shown
  })

  app.delete(
    '/api/proofs/:id',
    { schema: { params: IdParams, querystring: RevisionQuery } },
    async (request, reply) => {
      await deleteRow(Proof, Number(request.params.id), Number(request.query.revision), 'proof')
      return reply.status(204).send()
    },
  )
}
