import {
  blurPasses,
  blurWeights,
  gridOf,
  middlesOf,
  type BlurPass,
  type Field,
  type Shift,
  type Sigmas,
  type SpaceStep,
} from '@fogbath/core'
import type { Device, Texture } from './device'
import { BLUR, FIELD, SHIFT, SHRINK, STRETCH } from './space-shaders'

/** Work on neighbouring pixels; the same passes as on the processor. */
export class SpacePasses {
  private readonly grids = new Map<Field, FieldTexture>()

  constructor(private readonly device: Device) {}

  /** @param spare gives textures of the picture's size to draw into @returns one of them, or `from` where nothing is done */
  apply(step: SpaceStep, from: Texture, spare: () => Texture, width: number, height: number): Texture {
    const size = [width, height] as const
    if (step.kind === 'shift') return this.shift(step.records, from, spare(), size)
    if (step.kind === 'blur') return this.blur(step.sigmas, from, spare, size)
    return this.field(this.gridOf(step.field, step.smooth, size), from, spare(), size)
  }

  private shift(records: readonly Shift[], from: Texture, to: Texture, [width, height]: Size): Texture {
    const given = records.flatMap(({ x, y, rotation }) => {
      const angle = (-rotation * Math.PI) / 180
      return [Math.cos(angle), Math.sin(angle), (x * width) / 1000, (y * width) / 1000]
    })
    this.pass(SHIFT, { picture: from }, [to], [width, height], { given: Float32Array.from(given) })
    return to
  }

  private gridOf(field: Field, smooth: boolean, size: Size): FieldTexture {
    const known = this.grids.get(field)
    if (known && known.size[0] === size[0] && known.size[1] === size[1]) return known
    const { columns, rows, points } = (smooth ? gridOf : middlesOf)(field, ...size)
    const texture = this.device.floats(2 * columns, rows)
    this.device.fill(texture, points, 2 * columns, rows, 4)
    const made = { texture, points: [columns, rows] as const, exact: !smooth, size }
    const oldest = known ? field : this.grids.size >= MOST_FIELDS ? this.grids.keys().next().value : undefined
    if (oldest) {
      this.device.drop(this.grids.get(oldest)!.texture)
      this.grids.delete(oldest)
    }
    this.grids.set(field, made)
    return made
  }

  private field({ texture, points, exact }: FieldTexture, from: Texture, to: Texture, size: Size): Texture {
    this.pass(FIELD, { picture: from, grid: texture }, [to], size, { ints: { points, exact: [exact ? 1 : 0] } })
    return to
  }

  private blur(sigmas: Sigmas, from: Texture, spare: () => Texture, size: Size): Texture {
    const passes = blurPasses(sigmas, size[0])
    return passes.reduce((picture, pass) => this.blurOnce(pass, picture, spare, size), from)
  }

  private blurOnce({ factor, sigmas }: BlurPass, from: Texture, spare: () => Texture, size: Size): Texture {
    if (factor === 1) return this.convolved(sigmas, from, spare(), spare(), size)
    const small = [Math.ceil(size[0] / factor), Math.ceil(size[1] / factor)] as const
    const [a, b, to] = [this.device.floats(...small), this.device.floats(...small), spare()]
    const how = { ints: { factor: [factor] } }
    this.device.draw(
      this.device.program(SHRINK),
      { textures: { picture: from }, ints: { ...how.ints, size } },
      [a],
      ...small,
    )
    this.convolved(sigmas, a, b, a, small)
    const given = Float32Array.from([...sigmas.map((s) => (s > 0 ? 1 : 0)), 0])
    const textures = { picture: a, whole: from }
    this.device.draw(
      this.device.program(STRETCH),
      { textures, given, ints: { ...how.ints, size: small } },
      [to],
      ...size,
    )
    this.device.drop(a)
    this.device.drop(b)
    return to
  }

  /** Along the rows into one texture, then down the columns into another. */
  private convolved(sigmas: Sigmas, from: Texture, beside: Texture, to: Texture, size: Size): Texture {
    const { weights, reach } = blurWeights(sigmas)
    const held = this.device.floats(reach + 1, 1)
    this.device.fill(held, weights, reach + 1, 1, 4)
    const blur = (picture: Texture, target: Texture, along: Size): void =>
      this.pass(BLUR, { picture, weights: held }, [target], size, { ints: { along, reach: [reach] } })
    blur(from, beside, [1, 0])
    blur(beside, to, [0, 1])
    this.device.drop(held)
    return to
  }

  private pass(
    source: string,
    textures: Record<string, Texture>,
    targets: readonly Texture[],
    size: Size,
    { ints, given }: { ints?: Record<string, readonly number[]>; given?: Float32Array },
  ): void {
    const inputs = { textures, ints: { ...ints, size }, ...(given && { given }) }
    this.device.draw(this.device.program(source), inputs, targets, ...size)
  }
}

/** Fields whose grids are kept. */
const MOST_FIELDS = 6

interface FieldTexture {
  readonly texture: Texture
  readonly points: Size
  readonly exact: boolean
  /** Of the picture for which it was made. */
  readonly size: Size
}

type Size = readonly [width: number, height: number]
