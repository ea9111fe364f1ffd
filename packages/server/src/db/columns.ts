import { stepUpToDate, upToDate, type Recipe, type Step } from '@fogbath/core'
import { DataTypes, type Model, type Sequelize } from 'sequelize'
import {
  Edit,
  Favourite,
  KeptMask,
  KeptRecipe,
  Medium,
  Production,
  Proof,
  RecipeVersion,
  Render,
  RenderPart,
  Shot,
  Trial,
} from './models'

const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true }
const revision = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 }
const required = (
  type: (typeof DataTypes)['INTEGER'] | ReturnType<(typeof DataTypes)['STRING']> | (typeof DataTypes)['JSON'],
) => ({ type, allowNull: false })
const whole = () => required(DataTypes.INTEGER)
const text = (length: number) => required(DataTypes.STRING(length))
const json = () => required(DataTypes.JSON)
/** A recipe or a step, whichever version wrote it. */
const recipe = () => ({
  ...json(),
  get(this: Model): Recipe {
    return upToDate(this.getDataValue('recipe') as Recipe)
  },
})
const step = () => ({
  ...json(),
  get(this: Model): Step {
    return stepUpToDate(this.getDataValue('step') as Step)
  },
})

/** Binds the models to a connection. Tables are made by migrations, never by sync(). */
export function defineModels(sequelize: Sequelize): void {
  const options = (tableName: string) => ({ sequelize, tableName, underscored: true })
  Production.init({ id, revision, name: text(120), notes: { ...text(2000), defaultValue: '' } }, options('production'))
  Medium.init(
    {
      id,
      sha256: text(64),
      name: text(255),
      size: { type: DataTypes.BIGINT, allowNull: false },
      info: json(),
      sequence: { ...text(8), defaultValue: '' },
    },
    options('medium'),
  )
  Shot.init(
    {
      ...{ id, revision, productionId: whole(), mediumId: whole(), name: text(120), position: whole() },
      ...{ first: whole(), last: whole(), still: whole(), encoding: text(32), trims: json() },
      marks: { type: DataTypes.JSON, allowNull: true },
      trialId: { type: DataTypes.INTEGER, allowNull: true },
    },
    options('shot'),
  )
  Edit.init({ id, shotId: whole(), stack: text(8), key: text(32), position: whole(), step: step() }, options('edit'))
  Trial.init({ id, revision, shotId: whole(), name: text(60), recipe: recipe() }, options('trial'))
  Proof.init(
    {
      ...{ id, revision, shotId: whole(), name: text(60), frame: whole(), width: whole(), height: whole() },
      ...{ encoding: text(32), recipe: recipe(), trims: json() },
      picture: { type: DataTypes.BLOB('long'), allowNull: false },
    },
    options('proof'),
  )
  Render.init(
    {
      ...{
        id,
        shotId: { type: DataTypes.INTEGER, allowNull: true },
        label: text(255),
        format: text(8),
        state: text(16),
      },
      ...{ first: whole(), count: whole(), done: whole(), message: { ...text(500), defaultValue: '' } },
      ...{ mediumId: whole(), encoding: text(32), recipe: recipe(), trims: json(), createdAt: DataTypes.DATE },
    },
    options('render'),
  )
  // Each attribute needs an object of its own: its column's name is written into it.
  const flag = () => ({ type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false })
  KeptRecipe.init(
    {
      ...{ id, revision, key: text(32), name: text(80), sentence: { ...text(300), defaultValue: '' }, tags: json() },
      ...{ maker: { ...text(80), defaultValue: '' }, notes: { ...text(2000), defaultValue: '' } },
      ...{ archived: flag(), latest: whole(), createdAt: DataTypes.DATE },
    },
    options('kept_recipe'),
  )
  Favourite.init({ id, key: text(60) }, options('favourite'))
  RecipeVersion.init(
    { id, keptRecipeId: whole(), number: whole(), recipe: recipe(), changes: json(), createdAt: DataTypes.DATE },
    options('recipe_version'),
  )
  KeptMask.init(
    { id, revision, key: text(32), name: text(80), mask: json(), archived: flag(), createdAt: DataTypes.DATE },
    options('kept_mask'),
  )
  RenderPart.init({ id, renderId: whole(), first: whole(), count: whole() }, options('render_part'))
}
