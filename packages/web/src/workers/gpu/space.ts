import { blurPasses, blurWeights, gridOf, middlesOf, paintShapes, type BlurPass } from '@fogbath/core/cpu'
import {
  grainOnPixels,
  type CoverShape,
  type Field,
  type Grain,
  type Shift,
  type Sigmas,
  type SpaceStep,
  type Spread,
} from '@fogbath/core/stages'
import type { Device, Texture } from './device'
import { BLUR, FIELD, SHIFT, SHRINK, STRETCH } from './space-shaders'
import { CLEAR, COVER, GRAIN, JOIN, LEAST, NOISE, SUM } from './texture-shaders'

/** Work on neighbouring pixels; the same passes as on the processor. */
export class SpacePasses {
  private readonly grids = new Map<Field, FieldTexture>()

  constructor(private readonly device: Device) {}

  /** @param spare gives textures of the picture's size to draw into @returns one of them, or `from` where nothing is done */
  apply(step: SpaceStep, from: Texture, spare: () => Texture, size: Size, frame: number): Texture {
    switch (step.kind) {
      case 'shift':
        return this.shift(step.records, from, spare(), size)
      case 'blur':
        return this.blur(step.sigmas, from, spare, size)
      case 'field':
        return this.field(this.gridOf(step.field, step.smooth, size), from, spare(), size)
      case 'spread':
        return this.spread(step.spread, from, spare, size)
      case 'haze':
        return this.haze(step.sigma, step.amount, from, spare, size)
      case 'grain':
        return this.grain(step.grain, frame, from, spare, size)
      case 'cover':
        return this.cover(step.shapes, from, spare(), size)
      case 'moving':
        return step.at(frame).reduce((picture, now) => this.apply(now, picture, spare, size, frame), from)
    }
  }

  private spread(spread: Spread, from: Texture, spare: () => Texture, size: Size): Texture {
    const { copies, keep, amounts, least = 0, over } = spread
    const [first, second] = copies.map(({ sigma }) =>
      sigma > 0 ? this.blur([sigma, sigma, sigma], from, spare, size) : from,
    ) as [Texture, Texture]
    const sum = spare()
    const shares = Float32Array.of(copies[0].share, copies[1].share, 0, 0)
    this.pass(SUM, { picture: first, second }, [sum], size, { given: shares })
    const changed = over ? this.field(this.gridOf(over, true, size), sum, spare(), size) : sum
    const given = Float32Array.of(...keep, 1, ...amounts, 0, least > 0 ? 1 / least : 1e30, 0, 0, 0)
    const to = spare()
    this.pass(JOIN, { picture: from, what: changed }, [to], size, { given })
    return to
  }

  private haze(sigma: number, amount: number, from: Texture, spare: () => Texture, size: Size): Texture {
    const [least, to] = [spare(), spare()]
    this.pass(LEAST, { picture: from }, [least], size, {})
    const veil = this.blur([sigma, sigma, sigma], least, spare, size)
    this.pass(CLEAR, { picture: from, veil }, [to], size, { given: Float32Array.of(amount, 0, 0, 0) })
    return to
  }

  private grain(grain: Grain, frame: number, from: Texture, spare: () => Texture, size: Size): Texture {
    const { key, own, common, silver, weights } = grainOnPixels(grain, size[0], frame)
    const held = this.device.floats(weights.length, 1, 1)
    this.device.fill(held, weights, weights.length, 1, 1)
    const [noise, to] = [spare(), spare()]
    const reach = [weights.length - 1]
    this.pass(NOISE, { weights: held }, [noise], size, { ints: { key: [key], reach } })
    const given = Float32Array.of(...grain.clear, 0, own, common, silver, 0, ...grain.silver, 0)
    this.pass(GRAIN, { picture: from, noise, weights: held }, [to], size, { ints: { key: [key], reach }, given })
    this.device.drop(held)
    return to
  }

  private cover(shapes: (height: number) => readonly CoverShape[], from: Texture, to: Texture, size: Size): Texture {
    const plane = new Float32Array(4 * size[0] * size[1])
    paintShapes(shapes, plane, ...size)
    const laid = this.device.floats(...size)
    this.device.fill(laid, plane, ...size, 4)
    this.pass(COVER, { picture: from, laid }, [to], size, {})
    this.device.drop(laid)
    return to
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
