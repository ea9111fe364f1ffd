import { encodingOf, idOfEncoding, type EncodingRef } from '@fogbath/core/encodings'
import { NOISE, codeMeanings, ingestWork, noiseAt } from '@fogbath/core/cpu'
import type { StoredFrame } from '../frames'
import type { Device, Texture } from './device'
import type { GraphicsRunner } from './runner'

const HEAD = `#version 300 es
precision highp float;
precision highp int;
precision highp usampler2D;
precision highp sampler2D;
`

/** Each code through a table of all 65536. */
const INGEST = `${HEAD}
uniform usampler2D codes;
uniform sampler2D meanings;
out vec4 light;
float meaning(uint code) { return texelFetch(meanings, ivec2(int(code & 255u), int(code >> 8)), 0).r; }
void main() {
  uvec3 code = texelFetch(codes, ivec2(gl_FragCoord.xy), 0).rgb;
  light = vec4(meaning(code.r), meaning(code.g), meaning(code.b), 1.0);
}`

/** Code values to dithered bytes; see cpu/emit.ts. The canvas counts its rows from below. */
const EMIT = `${HEAD}
uniform sampler2D picture;
uniform sampler2D noise;
uniform ivec2 size;
uniform int start;
out vec4 colour;
float noiseOf(int i) { return texelFetch(noise, ivec2(i & 255, (i >> 8) & 255), 0).r; }
void main() {
  ivec2 at = ivec2(int(gl_FragCoord.x), size.y - 1 - int(gl_FragCoord.y));
  int i = start + 3 * (at.y * size.x + at.x);
  vec3 noisy = 255.0 * texelFetch(picture, at, 0).rgb + vec3(noiseOf(i), noiseOf(i + 1), noiseOf(i + 2));
  colour = vec4(roundEven(clamp(noisy, 0.0, 255.0)) / 255.0, 1.0);
}`

/** Frames into graphics memory as lines take them, and code values onto the canvas. */
export class Screen {
  private noise: Texture | undefined
  private meanings: { readonly key: string; readonly texture: Texture } | undefined
  private frame: { readonly key: string; readonly light: Texture } | undefined

  constructor(
    private readonly device: Device,
    /** Works on light on its way in. */
    private readonly runner: GraphicsRunner,
  ) {}

  /** A frame as the server gave it, as lines take it. @param key frames with another key are other frames */
  ingest(key: string, { data, width, height, format }: StoredFrame, encoding: EncodingRef): Texture | null {
    if (this.frame?.key === key) return this.frame.light
    const { device } = this
    const work = ingestWork(encodingOf(encoding))
    const meanings = this.meaningsOf(`${idOfEncoding(encoding)}/${format}`, () => codeMeanings(work, format))
    const [codes, first] = [device.codes(width, height), device.floats(width, height)]
    device.fill(codes, data, width, height, 3)
    device.draw(device.program(INGEST), { textures: { codes, meanings } }, [first], width, height)
    device.drop(codes)
    if (work.stages.length === 0) return this.keep(key, first)
    const light = this.runner.apply(work.stages, first, width, height)
    device.drop(first)
    return light && this.keep(key, light)
  }

  /** A picture that was made elsewhere. */
  adopt(key: string, pixels: Float32Array, width: number, height: number): Texture {
    if (this.frame?.key === key) return this.frame.light
    const light = this.device.floats(width, height)
    this.device.fill(light, pixels, width, height, 4)
    return this.keep(key, light)
  }

  /** Draws code values onto the canvas of the device, dithered. */
  emit(picture: Texture, width: number, height: number, seed: number): void {
    const { device } = this
    if (!this.noise) {
      this.noise = device.floats(256, 256, 1)
      device.fill(this.noise, NOISE, 256, 256, 1)
    }
    const { canvas } = device
    if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height]
    const ints = { size: [width, height], start: [noiseAt(seed)] }
    device.draw(device.program(EMIT), { textures: { picture, noise: this.noise }, ints }, [], width, height)
  }

  private keep(key: string, light: Texture): Texture {
    if (this.frame) this.device.drop(this.frame.light)
    this.frame = { key, light }
    return light
  }

  private meaningsOf(key: string, make: () => Float32Array): Texture {
    if (this.meanings?.key === key) return this.meanings.texture
    if (this.meanings) this.device.drop(this.meanings.texture)
    const texture = this.device.floats(256, 256, 1)
    this.device.fill(texture, make(), 256, 256, 1)
    this.meanings = { key, texture }
    return texture
  }
}
