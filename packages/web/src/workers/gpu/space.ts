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

const HEAD = `#version 300 es
precision highp float;
precision highp int;
uniform highp sampler2D picture;
uniform ivec2 size;
out vec4 colour;
vec4 seen(ivec2 at) { return texelFetch(picture, clamp(at, ivec2(0), size - 1), 0); }
`

/** Along one direction; weights of four channels side by side, the centre first. */
const BLUR = `${HEAD}
uniform highp sampler2D weights;
uniform ivec2 along;
uniform int reach;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 sum = texelFetch(weights, ivec2(0), 0) * seen(at);
  for (int j = 1; j <= reach; j++)
    sum += texelFetch(weights, ivec2(j, 0), 0) * (seen(at - j * along) + seen(at + j * along));
  colour = sum;
}`

const SHRINK = `${HEAD}
uniform int factor;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy) * factor;
  vec4 sum = vec4(0.0);
  for (int y = 0; y < factor; y++) for (int x = 0; x < factor; x++) sum += seen(at + ivec2(x, y));
  colour = sum / float(factor * factor);
}`

/** Linear between the pixels of a small picture; channels that were not blurred stay. */
const STRETCH = `${HEAD}
uniform highp sampler2D whole;
uniform int factor;
uniform vec4 given[1];
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec2 place = (vec2(at) + 0.5) / float(factor) - 0.5;
  ivec2 low = ivec2(floor(place));
  vec2 share = place - floor(place);
  vec4 above = mix(seen(low), seen(low + ivec2(1, 0)), share.x);
  vec4 below = mix(seen(low + ivec2(0, 1)), seen(low + ivec2(1, 1)), share.x);
  colour = mix(texelFetch(whole, at, 0), mix(above, below, share.y), given[0]);
}`

/** Each record moved by its own amount: cosine and sine of its turn, then its displacement in pixels. */
const SHIFT = `${HEAD}
uniform vec4 given[3];
float moved(int record) {
  vec4 turn = given[record];
  vec2 top = vec2(size - 1);
  vec2 from = gl_FragCoord.xy - 0.5 - 0.5 * top - turn.zw;
  vec2 place = clamp(0.5 * top + vec2(turn.x * from.x - turn.y * from.y, turn.y * from.x + turn.x * from.y), vec2(0.0), top);
  ivec2 low = min(ivec2(place), max(ivec2(0), size - 2));
  vec2 share = place - vec2(low);
  float above = mix(seen(low)[record], seen(low + ivec2(1, 0))[record], share.x);
  float below = mix(seen(low + ivec2(0, 1))[record], seen(low + ivec2(1, 1))[record], share.x);
  return mix(above, below, share.y);
}
void main() { colour = vec4(moved(0), moved(1), moved(2), 1.0); }`

/**
 * Factors and sums, two texels a point: of a grid whose outer points lie on the picture's edges, or of each pixel's own
 * middle.
 */
const FIELD = `${HEAD}
uniform highp sampler2D grid;
uniform ivec2 points;
uniform int exact;
vec4 at(ivec2 point, int which) { return texelFetch(grid, ivec2(2 * point.x + which, point.y), 0); }
vec4 between(ivec2 low, vec2 share, int which) {
  vec4 above = mix(at(low, which), at(low + ivec2(1, 0), which), share.x);
  vec4 below = mix(at(low + ivec2(0, 1), which), at(low + ivec2(1, 1), which), share.x);
  return exact == 1 ? at(low, which) : mix(above, below, share.y);
}
void main() {
  ivec2 own = ivec2(gl_FragCoord.xy);
  vec2 place = gl_FragCoord.xy / vec2(size) * vec2(points - 1);
  ivec2 low = exact == 1 ? own : min(points - 2, ivec2(place));
  vec2 share = exact == 1 ? vec2(0.0) : place - vec2(low);
  colour = seen(own) * between(low, share, 0) + between(low, share, 1);
}`

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
