import { Recent } from '@fogbath/core/numbers'
import { NotReady, corners, link, type Program } from './program'

type GL = WebGL2RenderingContext

/** What goes into a program: textures by sampler, whole numbers, vectors of four. */
export interface Inputs {
  readonly textures?: Readonly<Record<string, Texture | undefined>>
  readonly ints?: Readonly<Record<string, readonly number[]>>
  readonly given?: Float32Array
}

export interface Texture {
  readonly texture: WebGLTexture
  readonly target: number
}

/** Drawers that are no hardware, by what browsers call them; trying them would only take time. */
const IN_SOFTWARE = /swiftshader|llvmpipe|softpipe|software|basic render/i

function rendererOf(gl: GL): string {
  const told = gl.getExtension('WEBGL_debug_renderer_info')
  return String(gl.getParameter(told ? told.UNMASKED_RENDERER_WEBGL : gl.RENDERER))
}

const MOST_PROGRAMS = 60
const MOST_SOLIDS = 12

/** One WebGL2 context: programs, textures, and drawing from some textures into others. */
export class Device {
  private readonly vertex: WebGLShader
  private readonly frame: WebGLFramebuffer
  private readonly programs = new Recent<Program>(MOST_PROGRAMS, ({ program }) => this.gl.deleteProgram(program))
  private readonly beside
  /** Whether programs are waited for; otherwise {@link NotReady} is thrown until they are there. */
  patient = true
  private readonly solids = new Recent<Texture>(MOST_SOLIDS, (t) => this.drop(t))

  private constructor(
    readonly canvas: OffscreenCanvas,
    readonly gl: GL,
  ) {
    this.vertex = corners(gl)
    this.frame = gl.createFramebuffer()!
    this.beside = gl.getExtension('KHR_parallel_shader_compile')
  }

  /**
   * Null where there is no graphics hardware that can draw into float textures.
   * @param evenSlow drawing in software is taken as well
   */
  static open(evenSlow: boolean): Device | null {
    const canvas = new OffscreenCanvas(16, 16)
    const gl = canvas.getContext('webgl2', {
      alpha: false,
      antialias: false,
      depth: false,
      stencil: false,
      desynchronized: false,
      powerPreference: 'high-performance',
      failIfMajorPerformanceCaveat: !evenSlow,
    })
    if (!gl?.getExtension('EXT_color_buffer_float')) return null
    if (!evenSlow && IN_SOFTWARE.test(rendererOf(gl))) return null
    return new Device(canvas, gl)
  }

  get lost(): boolean {
    return this.gl.isContextLost()
  }

  /** Most pixels along a side, most textures of one program, most vectors that it is given. */
  get limits(): { readonly side: number; readonly textures: number; readonly given: number } {
    const { gl } = this
    const of = (name: number): number => gl.getParameter(name) as number
    return {
      side: of(gl.MAX_TEXTURE_SIZE),
      textures: of(gl.MAX_TEXTURE_IMAGE_UNITS),
      given: of(gl.MAX_FRAGMENT_UNIFORM_VECTORS),
    }
  }

  program(source: string): Program {
    const { gl, beside } = this
    const made = this.programs.get(source, () => link(gl, this.vertex, source))
    if (made.linked) return made
    const { program, fragment } = made
    if (beside && !this.patient && !gl.getProgramParameter(program, beside.COMPLETION_STATUS_KHR)) throw new NotReady()
    if (!gl.getProgramParameter(program, gl.LINK_STATUS))
      throw new Error(
        `The graphics refused a shader: ${gl.getShaderInfoLog(fragment) || gl.getProgramInfoLog(program)}`,
      )
    gl.deleteShader(fragment)
    made.linked = true
    return made
  }

  /** An empty picture or plane; what stands in it is not defined. */
  floats(width: number, height: number, channels: 1 | 4 = 4): Texture {
    const { gl } = this
    const texture = this.make(gl.TEXTURE_2D)
    gl.texStorage2D(gl.TEXTURE_2D, 1, channels === 4 ? gl.RGBA32F : gl.R32F, width, height)
    return texture
  }

  /** 16-bit codes, RGB. */
  codes(width: number, height: number): Texture {
    const { gl } = this
    const texture = this.make(gl.TEXTURE_2D)
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGB16UI, width, height)
    return texture
  }

  /** Puts rows into a texture. */
  fill(
    { texture }: Texture,
    data: Float32Array | Uint16Array,
    width: number,
    rows: number,
    channels: 1 | 3 | 4,
    row = 0,
  ) {
    const { gl } = this
    const whole = data instanceof Uint16Array
    const format = whole ? gl.RGB_INTEGER : channels === 4 ? gl.RGBA : gl.RED
    gl.bindTexture(gl.TEXTURE_2D, texture)
    const type = whole ? gl.UNSIGNED_SHORT : gl.FLOAT
    gl.texSubImage2D(gl.TEXTURE_2D, 0, 0, row, width, rows, format, type, ownCopy(data))
  }

  /** A solid of nodes with four floats each, kept under its key. */
  solid(key: string, side: number, nodes: () => Float32Array): Texture {
    return this.solids.get(key, () => {
      const { gl } = this
      const texture = this.make(gl.TEXTURE_3D)
      gl.texStorage3D(gl.TEXTURE_3D, 1, gl.RGBA32F, side, side, side)
      const how = [gl.RGBA, gl.FLOAT, ownCopy(nodes())] as const
      gl.texSubImage3D(gl.TEXTURE_3D, 0, 0, 0, 0, side, side, side, ...how)
      return texture
    })
  }

  private make(target: number): Texture {
    const { gl } = this
    const texture = gl.createTexture()
    gl.bindTexture(target, texture)
    for (const side of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER]) gl.texParameteri(target, side, gl.NEAREST)
    for (const side of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T]) gl.texParameteri(target, side, gl.CLAMP_TO_EDGE)
    return { texture, target }
  }

  drop({ texture }: Texture): void {
    this.gl.deleteTexture(texture)
  }

  /** Draws every pixel of the targets, or of the canvas where there are none. */
  draw({ program, at }: Program, inputs: Inputs, targets: readonly Texture[], width: number, height: number): void {
    const { gl } = this
    gl.useProgram(program)
    Object.entries(inputs.textures ?? {}).forEach(([name, texture], unit) => {
      if (!texture) return
      gl.activeTexture(gl.TEXTURE0 + unit)
      gl.bindTexture(texture.target, texture.texture)
      gl.uniform1i(at(name), unit)
    })
    for (const [name, values] of Object.entries(inputs.ints ?? {}))
      if (values.length === 1) gl.uniform1i(at(name), values[0]!)
      else gl.uniform2i(at(name), values[0]!, values[1]!)
    if (inputs.given?.length) gl.uniform4fv(at('given'), inputs.given)
    gl.activeTexture(gl.TEXTURE0)
    this.aim(targets)
    gl.viewport(0, 0, width, height)
    gl.drawArrays(gl.TRIANGLES, 0, 3)
  }

  private aim(targets: readonly Texture[]): void {
    const { gl } = this
    gl.bindFramebuffer(gl.FRAMEBUFFER, targets.length > 0 ? this.frame : null)
    if (targets.length === 0) return
    const most = gl.getParameter(gl.MAX_COLOR_ATTACHMENTS) as number
    for (let i = 0; i < Math.min(4, most); i++) {
      const place = gl.COLOR_ATTACHMENT0 + i
      gl.framebufferTexture2D(gl.FRAMEBUFFER, place, gl.TEXTURE_2D, targets[i]?.texture ?? null, 0)
    }
    gl.drawBuffers(targets.map((_, i) => gl.COLOR_ATTACHMENT0 + i))
  }

  /** Brings a picture back, RGBA. */
  read(picture: Texture, width: number, height: number): Float32Array {
    const { gl } = this
    this.aim([picture])
    const pixels = new Float32Array(4 * width * height)
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.FLOAT, pixels)
    return pixels
  }
}

/** Graphics takes no memory that threads share. */
const ownCopy = <T extends Float32Array | Uint16Array>(data: T): T =>
  data.buffer instanceof ArrayBuffer ? data : (data.slice() as T)
