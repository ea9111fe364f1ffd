import { HASH } from '@fogbath/core/stages'
import { HEAD } from './space-shaders'

// Shaders of spread, haze, grain and covers in space.ts; the same work as in the core's wasm/spread.ts and wasm/grain.ts.

const here = (sampler: string): string => `texelFetch(${sampler}, ivec2(gl_FragCoord.xy), 0)`

export const SUM = `${HEAD}
uniform highp sampler2D second;
uniform vec4 given[1];
void main() { colour = given[0].x * ${here('picture')} + given[0].y * ${here('second')}; }`

export const JOIN = `${HEAD}
uniform highp sampler2D what;
uniform vec4 given[3];
void main() {
  vec4 d = ${here('what')};
  vec4 t = min(vec4(1.0), abs(d) * given[2].x);
  colour = given[0] * ${here('picture')} + given[1] * (t * t * (3.0 - 2.0 * t)) * d;
}`

export const LEAST = `${HEAD}
void main() {
  vec3 c = ${here('picture')}.rgb;
  colour = vec4(min(c.r, min(c.g, c.b)));
}`

export const CLEAR = `${HEAD}
uniform highp sampler2D veil;
uniform vec4 given[1];
void main() {
  vec3 haze = min(vec3(0.95), given[0].x * ${here('veil')}.rgb);
  colour = vec4((${here('picture')}.rgb - haze) / (1.0 - haze), 1.0);
}`

const unsigned = (v: number): string => `0x${v.toString(16)}u`

/** Noise along the rows, blurred; it goes on outside the picture. */
export const NOISE = `${HEAD}
uniform highp sampler2D weights;
uniform int key;
uniform int reach;
uvec4 hashed(uvec4 v) {
  uvec4 h = v ^ (v >> 16u);
  h *= 0x7feb352du;
  h ^= h >> 15u;
  h *= 0x846ca68bu;
  return h ^ (h >> 16u);
}
vec4 noiseAt(ivec2 at) {
  uint place = uint(at.x >> 1) * ${unsigned(HASH.across)} + uint(at.y) * ${unsigned(HASH.down)} + uint(key);
  uvec4 h = hashed(uvec4(place) + uvec4(0u, 1u, 2u, 3u) * ${unsigned(HASH.layer)}) >> uint(16 * (at.x & 1));
  uvec4 sum = (h & 15u) + ((h >> 4u) & 15u) + ((h >> 8u) & 15u) + ((h >> 12u) & 15u);
  return vec4(ivec4(sum) - 30);
}
vec4 rowAt(ivec2 at) {
  vec4 sum = texelFetch(weights, ivec2(0), 0).r * noiseAt(at);
  for (int j = 1; j <= reach; j++)
    sum += texelFetch(weights, ivec2(j, 0), 0).r * (noiseAt(at - ivec2(j, 0)) + noiseAt(at + ivec2(j, 0)));
  return sum;
}
void main() { colour = rowAt(ivec2(gl_FragCoord.xy)); }`

/** Down the columns of what NOISE has drawn (whose rows outside the picture are worked out here), and onto densities. */
export const GRAIN = `${NOISE.replace(/void main[^]*$/, '')}
uniform highp sampler2D noise;
uniform vec4 given[3];
vec4 blurred(ivec2 at) { return at.y < 0 || at.y >= size.y ? rowAt(at) : texelFetch(noise, at, 0); }
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy);
  vec4 sum = texelFetch(weights, ivec2(0), 0).r * blurred(at);
  for (int j = 1; j <= reach; j++)
    sum += texelFetch(weights, ivec2(j, 0), 0).r * (blurred(at - ivec2(0, j)) + blurred(at + ivec2(0, j)));
  vec3 density = texelFetch(picture, at, 0).rgb;
  vec3 over = max(vec3(0.0), density - given[0].rgb);
  vec3 dyes = sqrt(over) * (given[1].x * sum.rgb + given[1].y * sum.a);
  float metal = sqrt(dot(over, given[2].rgb)) * given[1].z * sum.a;
  colour = vec4(density + dyes + metal, 1.0);
}`

/** Colours times their share, and the share, over the picture. */
export const COVER = `${HEAD}
uniform highp sampler2D laid;
void main() {
  vec4 over = ${here('laid')};
  colour = ${here('picture')} * (1.0 - over.a) + over;
}`
