type GL = WebGL2RenderingContext

/** A program with the places of what it is given. */
export interface Program {
  readonly program: WebGLProgram
  readonly fragment: WebGLShader
  /** Whether it is known to be linked. */
  linked: boolean
  readonly at: (name: string) => WebGLUniformLocation | null
}

/** Thrown while a program is still being translated beside us. */
export class NotReady extends Error {}

const CORNERS = `#version 300 es
void main() { gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0); }`

/** A triangle that covers everything. */
export const corners = (gl: GL): WebGLShader => shader(gl, gl.VERTEX_SHADER, CORNERS)

function shader(gl: GL, type: number, source: string): WebGLShader {
  const made = gl.createShader(type)!
  gl.shaderSource(made, source)
  gl.compileShader(made)
  return made
}

/** Begins to translate a program; see {@link Program.linked}. */
export function link(gl: GL, vertex: WebGLShader, source: string): Program {
  const program = gl.createProgram()
  const fragment = shader(gl, gl.FRAGMENT_SHADER, source)
  gl.attachShader(program, vertex)
  gl.attachShader(program, fragment)
  gl.linkProgram(program)
  const places = new Map<string, WebGLUniformLocation | null>()
  const at = (name: string): WebGLUniformLocation | null => {
    if (!places.has(name)) places.set(name, gl.getUniformLocation(program, name))
    return places.get(name)!
  }
  return { program, fragment, linked: false, at }
}
