import { ROUTES } from '@fogbath/contract'
import { defineEncoding, hasWayBack } from '@fogbath/core/encodings'
import { OwnEncoding } from '../db/models'
import { Fault } from '../errors'
import { keepEncoding, usesOf } from '../shelf/encodings'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

const shown = async ({ id, definition }: OwnEncoding) => ({
  definition,
  delivered: hasWayBack(definition),
  uses: await usesOf(id),
})

/** Encodings of one's own. */
export function encodingRoutes(app: App, { db }: Pick<Context, 'db'>): void {
  const serve = serverOf(app)
  serve(ROUTES.encodings, async () => {
    const rows = await OwnEncoding.findAll({ order: [['name', 'ASC']] })
    return Promise.all(rows.map(shown))
  })

  serve(ROUTES.keepEncoding, async ({ body }) => shown(await keepEncoding(defineEncoding(body))))

  serve(ROUTES.deleteEncoding, ({ params: { id } }) =>
    db.transaction(async (transaction) => {
      const row = await OwnEncoding.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
      if (!row) throw new Fault('not-found', `There is no encoding ${id}.`)
      const uses = await usesOf(id, transaction)
      if (uses > 0)
        throw new Fault(
          'invalid',
          `The encoding '${row.name}' is in use: ${uses} shots, proofs or renders are taken for it.`,
        )
      await row.destroy({ transaction })
    }),
  )
}
