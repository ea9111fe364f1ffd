import { ROUTES } from '@fogbath/contract'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Favourite, KeptRecipe } from '../db/models'
import { Fault } from '../errors'
import type { App } from './context'
import { serverOf } from './serve-route'

/** Which recipes of the shelf stand first there. To mark one twice, or to take off a mark that is gone, is no fault. */
export function favouriteRoutes(app: App): void {
  const serve = serverOf(app)
  serve(ROUTES.favourites, async () => (await Favourite.findAll({ order: [['id', 'ASC']] })).map(({ key }) => key))

  serve(ROUTES.markFavourite, async ({ params: { key } }) => {
    const there =
      SHIPPED_RECIPES.some(({ id }) => id === key) || (await KeptRecipe.findOne({ where: { key }, attributes: ['id'] }))
    if (!there) throw new Fault('not-found', `There is no recipe '${key}' on the shelf.`)
    await Favourite.upsert({ key })
  })

  serve(ROUTES.unmarkFavourite, async ({ params: { key } }) => {
    await Favourite.destroy({ where: { key } })
  })
}
