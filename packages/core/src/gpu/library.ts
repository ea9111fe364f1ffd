import { LAY_MODES } from '../lay/blend'
import { ROOT3, U_LUMA, V_LUMA } from '../colour/chroma'
import { LUMA_709 } from '../colour/spaces'
import { NODE_SHIFT } from '../numbers/octaves'
import { UNIT } from '../stages/held'

const luma = `vec3(${LUMA_709.join(', ')})`

/** Tables lie row by row in a texture of this many columns; each begins a row. */
export const COLUMNS = 1024

/** Reading tables: what stands in them is what the processor's tables hold, see cpu/tables.ts. */
const TABLES = `
ivec2 cell(int i) { return ivec2(i & ${COLUMNS - 1}, i / ${COLUMNS}); }
vec2 octaves(vec4 a, float v) {
  int lowest = floatBitsToInt(a.y);
  int bits = min(floatBitsToInt(v > a.y ? v : a.y) - lowest, int(a.z) << ${NODE_SHIFT});
  return vec2(float(bits >> ${NODE_SHIFT}), float(bits & ${(1 << NODE_SHIFT) - 1}) / ${1 << NODE_SHIFT}.0);
}
vec2 evenly(vec4 a, float v) {
  float place = min(a.w, max(0.0, (v - a.y) * a.z));
  float node = floor(place);
  return vec2(node, place - node);
}
float toneAt(vec4 a, vec2 place) {
  vec2 ends = texelFetch(tables, cell(int(a.x) + int(place.x)), 0).xy;
  return ends.x + (ends.y - ends.x) * place.y;
}
vec3 colourAt(vec4 a, vec2 place, int stride, int offset) {
  int node = int(a.x) + stride * int(place.x) + offset;
  vec3 low = texelFetch(tables, cell(node), 0).rgb;
  return low + (texelFetch(tables, cell(node + stride), 0).rgb - low) * place.y;
}`

/** Tetrahedral reading of a solid, then its light opened; see wasm/solid.ts and stages/held.ts. */
const SOLIDS = `
vec3 solidAt(sampler3D nodes, vec3 from, vec3 scale, vec3 v) {
  float top = float(textureSize(nodes, 0).x - 1);
  vec3 place = min(vec3(top), max(vec3(0.0), (v - from) * scale));
  vec3 corner = min(vec3(top - 1.0), floor(place));
  vec3 f = place - corner;
  ivec3 base = ivec3(corner);
  ivec3 first = f.r >= f.g && f.r >= f.b ? ivec3(1, 0, 0) : f.r < f.g && f.g >= f.b ? ivec3(0, 1, 0) : ivec3(0, 0, 1);
  ivec3 last = f.g >= f.b && f.r >= f.b ? ivec3(0, 0, 1) : f.r >= f.g ? ivec3(0, 1, 0) : ivec3(1, 0, 0);
  float high = max(f.r, max(f.g, f.b));
  float least = min(f.r, min(f.g, f.b));
  float middle = max(min(f.r, f.g), min(max(f.r, f.g), f.b));
  return texelFetch(nodes, base, 0).rgb * (1.0 - high)
    + texelFetch(nodes, base + first, 0).rgb * (high - middle)
    + texelFetch(nodes, base + ivec3(1) - last, 0).rgb * (middle - least)
    + texelFetch(nodes, base + ivec3(1), 0).rgb * least;
}
vec3 opened(vec3 w) {
  vec3 square = w * w;
  return ${UNIT} * w * (1.0 + square * (1.0 / 6.0 + square / 120.0));
}`

/** Held mixes, the fit into the gamut, picked colours; see stages/plain.ts and colour/gamut.ts. */
const COLOURS = `
vec3 softly(vec3 v, vec3 from, vec4 a) {
  float least = a.x * max(1e-6, (from.r + from.g + from.b) / 3.0);
  return (v + sqrt(v * v + 4.0 * least * least)) * 0.5 * a.y;
}
vec3 fitted(vec3 c) {
  float y = dot(${luma}, c);
  if (!(y > 0.0) || y >= 1.0) return vec3(y >= 1.0 ? 1.0 : 0.0);
  float low = (y - min(c.r, min(c.g, c.b))) / y;
  float high = (max(c.r, max(c.g, c.b)) - y) / (1.0 - y);
  vec2 power = vec2(low * low, high * high);
  power *= power;
  float sum = dot(power, power);
  float inner = max(0.0, 1.0 - sum / 3.0);
  return y + (c - y) * sqrt(sqrt(sqrt(1.0 / (sum + inner * inner))));
}
vec3 shaded(vec4 a, vec3 c) {
  vec2 place = evenly(a, dot(${luma}, c));
  return c * colourAt(a, place, 2, 0) + colourAt(a, place, 2, 1);
}
vec2 chromaOf(vec3 c) { return vec2(c.r - 0.5 * (c.g + c.b), ${ROOT3 / 2} * (c.g - c.b)); }
float squareOf(vec2 c) {
  float part = c.y / max(1e-20, abs(c.x) + abs(c.y));
  return c.x < 0.0 ? 2.0 - part : part < 0.0 ? 4.0 + part : part;
}
vec3 hued(vec4 a, float gain, float perFull, vec3 c) {
  vec2 own = chromaOf(c);
  vec3 turned = colourAt(a, evenly(a, squareOf(own)), 1, 0);
  vec2 turn = turned.xy * gain;
  vec2 now = vec2(turn.x * own.x - turn.y * own.y, turn.y * own.x + turn.x * own.y);
  float low = dot(${luma}, c) - dot(vec2(${U_LUMA}, ${V_LUMA}), now) - now.x / 3.0;
  float off = now.y * ${1 / ROOT3};
  return vec3(low + now.x, low + off, low - off) * (1.0 + turned.z * min(1.0, length(own) * perFull));
}
vec3 chromaTimes(float gain, vec3 c) { return mix(vec3(dot(${luma}, c)), c, gain); }
float selected(float nearest, vec4 a) {
  float t = clamp(1.0 + (a.x - nearest) * a.y, 0.0, 1.0);
  return t * t * (3.0 - 2.0 * t);
}`

/** B(backdrop, source) of one channel; the names are those of lay/blend.ts, where the rule stands. */
const SEPARABLE: Record<string, string> = {
  multiply: 'b * s',
  screen: 'b + s - b * s',
  overlay: 'hard(s, b)',
  darken: 'min(b, s)',
  lighten: 'max(b, s)',
  'color-dodge': 'b == 0.0 ? 0.0 : s >= 1.0 ? 1.0 : min(1.0, b / (1.0 - s))',
  'color-burn': 'b >= 1.0 ? 1.0 : s <= 0.0 ? 0.0 : 1.0 - min(1.0, (1.0 - b) / s)',
  'hard-light': 'hard(b, s)',
  'soft-light': 'soft(b, s)',
  difference: 'abs(b - s)',
  exclusion: 'b + s - 2.0 * b * s',
  'plus-lighter': 'min(1.0, b + s)',
}

const TOGETHER: Record<string, string> = {
  hue: 'withLum(withSat(s, satOf(b)), lumOf(b))',
  saturation: 'withLum(withSat(b, satOf(s)), lumOf(b))',
  color: 'withLum(s, lumOf(b))',
  luminosity: 'withLum(b, lumOf(s))',
}

const BLENDS = `
float hard(float b, float s) { return s <= 0.5 ? 2.0 * b * s : b + (2.0 * s - 1.0) - b * (2.0 * s - 1.0); }
float soft(float b, float s) {
  if (s <= 0.5) return b - (1.0 - 2.0 * s) * b * (1.0 - b);
  float d = b <= 0.25 ? ((16.0 * b - 12.0) * b + 4.0) * b : sqrt(b);
  return b + (2.0 * s - 1.0) * (d - b);
}
float lumOf(vec3 c) { return dot(vec3(0.3, 0.59, 0.11), c); }
float leastOf(vec3 c) { return min(c.r, min(c.g, c.b)); }
float greatestOf(vec3 c) { return max(c.r, max(c.g, c.b)); }
float satOf(vec3 c) { return greatestOf(c) - leastOf(c); }
vec3 withLum(vec3 c, float l) {
  c += l - lumOf(c);
  float own = lumOf(c);
  float low = leastOf(c);
  float high = greatestOf(c);
  if (low < 0.0 && own > low) c = own + (c - own) * own / (own - low);
  if (high > 1.0 && high > own) c = own + (c - own) * (1.0 - own) / (high - own);
  return clamp(c, 0.0, 1.0);
}
vec3 withSat(vec3 c, float s) { return satOf(c) == 0.0 ? vec3(0.0) : (c - leastOf(c)) * (s / satOf(c)); }
`

/** The function of a blend mode, and its name. `normal` needs none. */
export const blendName = (mode: string): string => `blend${LAY_MODES.indexOf(mode as (typeof LAY_MODES)[number])}`

function blendFunction(mode: string): string {
  const name = blendName(mode)
  const together = TOGETHER[mode]
  if (together) return `vec3 ${name}(vec3 b, vec3 s) { return ${together}; }`
  return `float ${name}(float b, float s) { return ${SEPARABLE[mode]}; }
vec3 ${name}(vec3 b, vec3 s) { return vec3(${[...'rgb'].map((c) => `${name}(b.${c}, s.${c})`).join(', ')}); }`
}

/** All that shaders of runs may call. @param modes blend modes that are used */
export const libraryFor = (modes: readonly string[]): string =>
  [TABLES, SOLIDS, COLOURS, ...(modes.length > 0 ? [BLENDS, ...modes.map(blendFunction)] : [])].join('\n')
