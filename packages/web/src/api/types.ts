import type { Marks, Mask, Recipe, SharedRecipe, SharedState, Trims } from '@fogbath/core'

/** What the server sends; see packages/server/src/http. */
interface MediumInfo {
  kind: 'clip' | 'still' | 'sequence'
  width: number
  height: number
  frames: number
  fps: string
  codec: string
  pixelFormat: string
  bits: number
  float: boolean
  matrix: string
  range: string
  chromaAt?: string
  encoding: string
  warnings: string[]
}
export interface Medium {
  id: number
  name: string
  sha256: string
  size: number | string
  info: MediumInfo
}
export interface Trial {
  id: number
  revision: number
  shotId: number
  name: string
  recipe: Recipe
}
/** A recipe of one's own on the shelf, with its newest line. */
export interface KeptRecipe {
  id: number
  revision: number
  key: string
  name: string
  sentence: string
  maker: string
  notes: string
  tags: string[]
  archived: boolean
  latest: number
  createdAt: string
  recipe: Recipe
  /** Newest first; what became of the version before, in words. */
  versions: { number: number; changes: string[]; createdAt: string }[]
}
/** How often a line of some id is on shots, and when one of them was changed last. */
export interface RecipeUse {
  id: string
  uses: number
  last: string
}
/** A file of a recipe, and what it is to the shelf. */
export interface LookedFile {
  file: string
  name: string | null
  state: SharedState | 'broken'
  versions: number
  own: number
  problem: string | null
}
export interface SharedFiles {
  folder: string | null
  files: (LookedFile & { recipe: SharedRecipe | null })[]
}
export interface KeptMask {
  id: number
  revision: number
  key: string
  name: string
  mask: Mask
  archived: boolean
  createdAt: string
}
export interface Shot {
  id: number
  revision: number
  productionId: number
  mediumId: number
  name: string
  position: number
  first: number
  last: number
  still: number
  encoding: string
  trims: Trims
  marks: Marks
  trialId: number | null
  medium: Medium
  trials: Trial[]
}
/** A kept still with the recipe and trims that made it. */
export interface Proof {
  id: number
  revision: number
  shotId: number
  name: string
  frame: number
  width: number
  height: number
  encoding: string
  recipe: Recipe
  trims: Trims
}
export interface Production {
  id: number
  revision: number
  name: string
  notes: string
  shots: Shot[]
}
/** As the list shows it: of its shots the first ones, of their trials the chosen one. */
export interface ListedProduction extends Production {
  shotCount: number
}
/** Part of a list, the newest first. */
export interface Page<T> {
  items: T[]
  /** Whether older ones follow. */
  more: boolean
}
export type RenderFormat = 'mp4' | 'mov' | 'png' | 'tif' | 'exr'
export interface Render {
  id: number
  label: string
  mediumId: number
  encoding: string
  recipe: Recipe
  trims: Trims
  format: RenderFormat
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
  first: number
  count: number
  done: number
  /** Seconds. */
  left: number | null
  /** Frames a second. */
  rate: number | null
  message: string
  createdAt: string
}
export interface TakenFile {
  name: string
  shotId?: number
  message?: string
}

/** What a backup holds, beside what is here. */
export interface BackupPreview {
  productions: { name: string; shots: number; proofs: number; there: boolean }[]
  media: { here: number; brought: number; bytes: number }
  missing: string[]
}

/** Bytes that lie on the server's disk. */
export interface StorageUse {
  footage: number
  cache: number
  renders: number
  proofs: number
  undo: number
  canGo: { kind: 'upload' | 'footage' | 'cache' | 'render' | 'import'; count: number; bytes: number }[]
}
