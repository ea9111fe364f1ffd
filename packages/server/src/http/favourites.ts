import { SHIPPED_RECIPES } from '@fogbath/core'
import { Favourite, KeptRecipe } from '../db/models'
import { Fault } from '../errors'
import type { App } from './context'
import { FavouriteParams } from './schemas'

/** Which recipes of the shelf stand first there. To mark one twice, or to take off a mark that is gone, is no fault. */
export function favouriteRoutes(app: App): void {
  app.get('/api/favourites', async () => (await Favourite.findAll({ order: [['id', 'ASC']] })).map(({ key }) => key))

  app.put('/api/favourites/:key', { schema: { params: FavouriteParams } }, async (request, reply) => {
    const { key } = request.params
    const there =
      SHIPPED_RECIPES.some(({ id }) => id === key) || (await KeptRecipe.findOne({ where: { key }, attributes: ['id'] }))
    if (!there) throw new Fault('not-found', `There is no recipe '${key}' on the shelf.`)
    await Favourite.upsert({ key })
    return reply.status(204).send()
  })

  app.delete('/api/favourites/:key', { schema: { params: FavouriteParams } }, async (request, reply) => {
    await Favourite.destroy({ where: { key: request.params.key } })
    return reply.status(204).send()
  })
}
