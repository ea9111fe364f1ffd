import type { Marks, Mask, Recipe, Step, Trims } from '@fogbath/core'
import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize'
import type { TargetFormat } from '../media/encode'
import type { MediaInfo } from '../media/probe'

type Attributes<M extends Model> = InferAttributes<M>
type Creation<M extends Model> = InferCreationAttributes<M>

/** Rows that are changed by users carry a revision number; a write must name the one it saw. */
export class Production extends Model<Attributes<Production>, Creation<Production>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  declare name: string
  declare notes: CreationOptional<string>
}

/** A file or sequence in the store, known by the SHA-256 of its contents. */
export class Medium extends Model<Attributes<Medium>, Creation<Medium>> {
  declare id: CreationOptional<number>
  declare sha256: string
  declare name: string
  /** Bytes; BIGINT comes back as text. */
  declare size: number
  declare info: MediaInfo
  /** Ending of the numbered files of a sequence, or empty for one file. */
  declare sequence: CreationOptional<string>
}

export class Shot extends Model<Attributes<Shot>, Creation<Shot>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  declare productionId: number
  declare mediumId: number
  declare name: string
  declare position: number
  /** First and last frame used, counted from 0. */
  declare first: number
  declare last: number
  /** The telling frame. */
  declare still: number
  declare encoding: string
  declare trims: Trims
  /** Null in rows from before there were marks. */
  declare marks: CreationOptional<Marks | null>
  declare trialId: CreationOptional<number | null>
}

export type Stack = 'past' | 'future'

/** A step that undo (past) or redo (future) brings back; the highest position of a stack is the next one. */
export class Edit extends Model<Attributes<Edit>, Creation<Edit>> {
  declare id: CreationOptional<number>
  declare shotId: number
  declare stack: Stack
  /** Its name in the shot, given by the window that made it. */
  declare key: string
  declare position: number
  declare step: Step
}

export class Trial extends Model<Attributes<Trial>, Creation<Trial>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  declare shotId: number
  declare name: string
  declare recipe: Recipe
}

/** A still kept with what made it. */
export class Proof extends Model<Attributes<Proof>, Creation<Proof>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  declare shotId: number
  declare name: string
  declare frame: number
  declare width: number
  declare height: number
  declare encoding: string
  declare recipe: Recipe
  declare trims: Trims
  /** PNG. */
  declare picture: Buffer
}

export type RenderState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'

export class Render extends Model<Attributes<Render>, Creation<Render>> {
  declare id: CreationOptional<number>
  declare shotId: CreationOptional<number | null>
  declare label: string
  declare format: TargetFormat
  declare state: RenderState
  declare first: number
  declare count: number
  /** Frames written in whole parts. */
  declare done: number
  declare message: CreationOptional<string>
  declare mediumId: number
  declare encoding: string
  declare recipe: Recipe
  declare trims: Trims
  declare createdAt: CreationOptional<Date>
}

/** A run of frames of a render that has been written whole; a restart goes on behind the last one. */
export class RenderPart extends Model<Attributes<RenderPart>, Creation<RenderPart>> {
  declare id: CreationOptional<number>
  declare renderId: number
  declare first: number
  declare count: number
}

/** A recipe of one's own on the shelf; what it does stands in its versions. It can be archived, never deleted. */
export class KeptRecipe extends Model<Attributes<KeptRecipe>, Creation<KeptRecipe>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  /** Its name in lines, the same on every machine. */
  declare key: string
  declare name: string
  declare sentence: CreationOptional<string>
  /** Who made it, as they called themselves. */
  declare maker: CreationOptional<string>
  declare notes: CreationOptional<string>
  declare tags: readonly string[]
  declare archived: CreationOptional<boolean>
  /** Number of the newest version. */
  declare latest: number
  declare createdAt: CreationOptional<Date>
}

/** One state of a recipe on the shelf; never changed once it is there. */
export class RecipeVersion extends Model<Attributes<RecipeVersion>, Creation<RecipeVersion>> {
  declare id: CreationOptional<number>
  declare keptRecipeId: number
  /** Counted from 1 in its recipe. */
  declare number: number
  declare recipe: Recipe
  /** What became of the version before, in words. */
  declare changes: readonly string[]
  declare createdAt: CreationOptional<Date>
}

/** A recipe of the shelf that stands first there, whether it came with the program or is one's own. */
export class Favourite extends Model<Attributes<Favourite>, Creation<Favourite>> {
  declare id: CreationOptional<number>
  /** Key of one's own, or the id of one that came with the program. */
  declare key: string
}

/** A mask that is kept for other baths and shots. */
export class KeptMask extends Model<Attributes<KeptMask>, Creation<KeptMask>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  /** The same on every machine. */
  declare key: string
  declare name: string
  declare mask: Mask
  declare archived: CreationOptional<boolean>
  declare createdAt: CreationOptional<Date>
}
