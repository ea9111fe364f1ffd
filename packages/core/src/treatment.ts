import { encodingById } from './colour/encodings'
import { recodeStages } from './cpu/emit'
import { makeIngest, type FrameData, type FrameFormat } from './cpu/ingest'
import { Pictures, type Picture } from './cpu/pictures'
import { compileLine } from './line/compile'
import type { Recipe } from './line/recipe'
import { NO_TRIMS, type Trims } from './line/trims'
import { PlanRunner } from './plan/run'

export interface TreatmentOptions {
  readonly recipe: Recipe
  readonly trims?: Trims
  /** Encodings, by their ids; the second is taken for the first where it is left out. */
  readonly from: string
  readonly to?: string
  readonly format: FrameFormat
}

/** Footage code values in, code values of the target out. */
export class Treatment {
  private readonly runner = new PlanRunner()
  private readonly pictures = new Pictures()
  private readonly ingest
  private readonly plan

  constructor({ recipe, trims, from, to, format }: TreatmentOptions) {
    this.ingest = makeIngest(encodingById(from), format)
    this.plan = compileLine(recipe, {
      trims: trims ?? NO_TRIMS,
      refers: encodingById(from).refers,
      shown: recodeStages(encodingById(to ?? from)),
    })
  }

  /** @param data interleaved RGB @param frame its number @returns a picture that the next run overwrites */
  run(data: FrameData, width: number, height: number, frame: number): Picture {
    const camera = this.pictures.take('camera', width * height)
    this.ingest(data, camera)
    return this.runner.run(this.plan, camera, width, height, { frame })
  }

  /** Gives the buffers back. */
  release(): void {
    this.runner.release()
    this.pictures.release()
  }
}
