import { MOST_PRESET_NAME } from '@fogbath/core/delivery'
import { MOST_ENCODING_NAME } from '@fogbath/core/encodings'
import {
  MOST_LETTERS,
  bathsUpToDate,
  stepUpToDate,
  upToDate,
  type Bath,
  type Recipe,
  type Step,
} from '@fogbath/core/line'
import { DataTypes, type InitOptions, type Model, type Sequelize } from 'sequelize'
import {
  Edit,
  Favourite,
  KeptList,
  KeptMask,
  KeptPreset,
  KeptRecipe,
  Medium,
  OwnEncoding,
  Production,
  Proof,
  RecipeVersion,
  Render,
  RenderPart,
  Restored,
  Shot,
  Trial,
} from './models'

const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true }
const revision = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 }
const required = (
  type:
    | (typeof DataTypes)['INTEGER']
    | ReturnType<(typeof DataTypes)['STRING']>
    | ReturnType<(typeof DataTypes)['TEXT']>
    | (typeof DataTypes)['JSON'],
) => ({ type, allowNull: false })
const whole = () => required(DataTypes.INTEGER)
const text = (length: number) => required(DataTypes.STRING(length))
const written = (thing: keyof typeof MOST_LETTERS) => text(MOST_LETTERS[thing])
const stamps = { createdAt: DataTypes.DATE, updatedAt: DataTypes.DATE }
const json = () => required(DataTypes.JSON)
const reading = () => ({ ...json(), defaultValue: {} })
/** A recipe or a step, whichever version wrote it. */
const recipe = () => ({
  ...json(),
  get(this: Model): Recipe {
    return upToDate(this.getDataValue('recipe') as Recipe)
  },
})
/** Baths around a look, likewise. */
const baths = (name: 'preparation' | 'after') => ({
  ...json(),
  defaultValue: [],
  get(this: Model): readonly Bath[] {
    return bathsUpToDate(this.getDataValue(name) as readonly Bath[])
  },
})
const step = () => ({
  ...json(),
  get(this: Model): Step {
    return stepUpToDate(this.getDataValue('step') as Step)
  },
})

type OptionsOf = (tableName: string) => InitOptions

/** Productions, their footage and all that stands on a shot. */
function defineProductions(options: OptionsOf): void {
  Production.init(
    { id, revision, name: written('production'), notes: { ...written('notes'), defaultValue: '' }, ...stamps },
    options('production'),
  )
  Medium.init(
    {
      id,
      sha256: text(64),
      name: written('file'),
      size: {
        type: DataTypes.BIGINT,
        allowNull: false,
        // It may come back as text.
        get(this: Model): number {
          return Number(this.getDataValue('size'))
        },
      },
      info: json(),
      sequence: { ...text(8), defaultValue: '' },
      ...stamps,
    },
    options('medium'),
  )
  Shot.init(
    {
      id,
      revision,
      productionId: whole(),
      mediumId: whole(),
      name: written('shot'),
      position: whole(),
      first: whole(),
      last: whole(),
      still: whole(),
      encoding: text(32),
      reading: reading(),
      preparation: baths('preparation'),
      marks: { type: DataTypes.JSON, allowNull: true },
      cut: { type: DataTypes.JSON, allowNull: true },
      tracks: { type: DataTypes.JSON, allowNull: true },
      trialId: { type: DataTypes.INTEGER, allowNull: true },
      ...stamps,
    },
    options('shot'),
  )
  KeptList.init(
    {
      productionId: { type: DataTypes.INTEGER, primaryKey: true },
      name: written('file'),
      fps: text(32),
      content: required(DataTypes.TEXT('long')),
      ...stamps,
    },
    options('kept_list'),
  )
  Edit.init({ id, shotId: whole(), stack: text(8), key: text(32), position: whole(), step: step() }, options('edit'))
  Trial.init(
    { id, revision, shotId: whole(), name: written('trial'), recipe: recipe(), after: baths('after'), ...stamps },
    options('trial'),
  )
  Proof.init(
    {
      id,
      revision,
      shotId: whole(),
      name: written('proof'),
      frame: whole(),
      width: whole(),
      height: whole(),
      encoding: text(32),
      recipe: recipe(),
      preparation: baths('preparation'),
      after: baths('after'),
      picture: { type: DataTypes.BLOB('long'), allowNull: false },
      ...stamps,
    },
    options('proof'),
  )
}

function defineRenders(options: OptionsOf): void {
  Render.init(
    {
      id,
      shotId: { type: DataTypes.INTEGER, allowNull: true },
      label: written('file'),
      format: text(32),
      delivery: { ...json(), defaultValue: {} },
      edition: { ...text(16), defaultValue: '' },
      state: text(16),
      first: whole(),
      count: whole(),
      done: whole(),
      message: { ...text(500), defaultValue: '' },
      mediumId: whole(),
      encoding: text(32),
      reading: reading(),
      recipe: recipe(),
      preparation: baths('preparation'),
      after: baths('after'),
      time: { type: DataTypes.JSON, allowNull: true, defaultValue: null },
      pieces: { type: DataTypes.JSON, allowNull: true, defaultValue: null },
      place: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
      put: { type: DataTypes.STRING(8), allowNull: true, defaultValue: null },
      ...stamps,
    },
    options('render'),
  )
  KeptPreset.init({ id, revision, name: text(MOST_PRESET_NAME), delivery: json(), ...stamps }, options('kept_preset'))
  RenderPart.init({ id, renderId: whole(), first: whole(), count: whole() }, options('render_part'))
}

/** What is kept for all productions. */
function defineShelf(options: OptionsOf): void {
  // Each attribute needs an object of its own: its column's name is written into it.
  const flag = () => ({ type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false })
  KeptRecipe.init(
    {
      id,
      revision,
      key: text(32),
      name: written('recipe'),
      tags: json(),
      sentence: { ...written('sentence'), defaultValue: '' },
      maker: { ...written('maker'), defaultValue: '' },
      notes: { ...written('notes'), defaultValue: '' },
      archived: flag(),
      latest: whole(),
      ...stamps,
    },
    options('kept_recipe'),
  )
  Favourite.init({ id, key: text(60) }, options('favourite'))
  RecipeVersion.init(
    { id, keptRecipeId: whole(), number: whole(), recipe: recipe(), changes: json(), ...stamps },
    options('recipe_version'),
  )
  KeptMask.init(
    { id, revision, key: text(32), name: written('mask'), mask: json(), archived: flag(), ...stamps },
    options('kept_mask'),
  )
}

/** Binds the models to a connection. Tables are made by migrations, never by sync(). */
export function defineModels(sequelize: Sequelize): void {
  const options: OptionsOf = (tableName) => ({ sequelize, tableName, underscored: true })
  defineProductions(options)
  defineRenders(options)
  defineShelf(options)
  OwnEncoding.init(
    { id: { ...text(20), primaryKey: true }, name: text(MOST_ENCODING_NAME), definition: json(), ...stamps },
    options('own_encoding'),
  )
  Restored.init({ id, archive: text(64), productions: json(), createdAt: DataTypes.DATE }, options('restored'))
}
