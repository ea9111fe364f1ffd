import type { Delivery, DeliveryId } from '@fogbath/core/delivery'
import type { EncodingDefinition } from '@fogbath/core/encodings'
import type { Cut } from '@fogbath/core/edits'
import type { Reading } from '@fogbath/core/footage'
import type { Bath, Marks, Recipe, ShotTime, Step } from '@fogbath/core/line'
import type { Mask } from '@fogbath/core/masks'
import type { Track } from '@fogbath/core/tracking'
import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes } from 'sequelize'
import type { MediaInfo, Piece, Put, RenderState } from '@fogbath/contract'

type Attributes<M extends Model> = InferAttributes<M>
type Creation<M extends Model> = InferCreationAttributes<M>

/** Rows that are changed by users carry a revision number; a write must name the one it saw. */
export class Production extends Model<Attributes<Production>, Creation<Production>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  declare name: string
  declare notes: CreationOptional<string>
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
}

/** A file or sequence in the store, known by the SHA-256 of its contents. */
export class Medium extends Model<Attributes<Medium>, Creation<Medium>> {
  declare id: CreationOptional<number>
  declare sha256: string
  declare name: string
  /** Bytes. */
  declare size: number
  declare info: MediaInfo
  /** Ending of the numbered files of a sequence, or empty for one file. */
  declare sequence: CreationOptional<string>
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
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
  /** How its footage is read where that is not left to the file. */
  declare reading: CreationOptional<Reading>
  /** Before any look; all trials share it. */
  declare preparation: CreationOptional<readonly Bath[]>
  /** Null in rows from before there were marks. */
  declare marks: CreationOptional<Marks | null>
  /** How an edit shows it; null for one that is from none. */
  declare cut: CreationOptional<Cut | null>
  /** What parts of its masks follow; null where nothing ever was. */
  declare tracks: CreationOptional<readonly Track[] | null>
  declare trialId: CreationOptional<number | null>
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
}

/** The list that the shots of a production were last put in order by, so that what was not found can be pointed to later. */
export class KeptList extends Model<Attributes<KeptList>, Creation<KeptList>> {
  declare productionId: number
  declare name: string
  /** Rate of a list that says none itself. */
  declare fps: string
  declare content: string
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
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
  /** Behind the look. */
  declare after: CreationOptional<readonly Bath[]>
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
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
  declare preparation: CreationOptional<readonly Bath[]>
  declare after: CreationOptional<readonly Bath[]>
  /** PNG. */
  declare picture: Buffer
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
}

export class Render extends Model<Attributes<Render>, Creation<Render>> {
  declare id: CreationOptional<number>
  declare shotId: CreationOptional<number | null>
  declare label: string
  declare format: DeliveryId
  /** All else of what it becomes. */
  declare delivery: CreationOptional<Omit<Delivery, 'format'>>
  /** What core computed with when it was asked for. */
  declare edition: CreationOptional<string>
  declare state: RenderState
  declare first: number
  declare count: number
  /** Frames written in whole parts. */
  declare done: number
  declare message: CreationOptional<string>
  declare mediumId: number
  declare encoding: string
  declare reading: CreationOptional<Reading>
  declare recipe: Recipe
  declare preparation: CreationOptional<readonly Bath[]>
  declare after: CreationOptional<readonly Bath[]>
  /** What the line knows of its shot; null where nothing in it changes over the shot. */
  declare time: CreationOptional<ShotTime | null>
  /** Of one file of several shots; null where the row itself is the one. */
  declare pieces: CreationOptional<readonly Piece[] | null>
  /** Where it stands in line: the lowest is next. */
  declare place: CreationOptional<number>
  /** Whether it is put into the folder of deliveries as well, and there over what has its name. */
  declare put: CreationOptional<Put | null>
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
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
  declare updatedAt: CreationOptional<Date>
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
  declare updatedAt: CreationOptional<Date>
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
  declare updatedAt: CreationOptional<Date>
}

/** A delivery that is kept under a name. */
export class KeptPreset extends Model<Attributes<KeptPreset>, Creation<KeptPreset>> {
  declare id: CreationOptional<number>
  declare revision: CreationOptional<number>
  declare name: string
  declare delivery: Delivery
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
}

/** An encoding of one's own, by a digest of what it does. */
export class OwnEncoding extends Model<Attributes<OwnEncoding>, Creation<OwnEncoding>> {
  declare id: string
  declare name: string
  declare definition: EncodingDefinition
  declare createdAt: CreationOptional<Date>
  declare updatedAt: CreationOptional<Date>
}

/** A backup that was taken in, by the id that it was made with, so that it is not taken in twice unasked. */
export class Restored extends Model<Attributes<Restored>, Creation<Restored>> {
  declare id: CreationOptional<number>
  declare archive: string
  /** Ids of the productions that were made of it. */
  declare productions: readonly number[]
  declare createdAt: CreationOptional<Date>
}
