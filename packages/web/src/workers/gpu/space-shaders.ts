// Shaders of the passes in space.ts. Each draws a whole picture; outside it the edge goes on.

export const HEAD = `#version 300 es
precision highp float;
precision highp int;
uniform highp sampler2D picture;
uniform ivec2 size;
out vec4 colour;
vec4 seen(ivec2 at) { return texelFetch(picture, clamp(at, ivec2(0), size - 1), 0); }
`

/** Along one direction; weights of four channels side by side, the centre first. */
export const BLUR = `${HEAD}
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

export const SHRINK = `${HEAD}
uniform int factor;
void main() {
  ivec2 at = ivec2(gl_FragCoord.xy) * factor;
  vec4 sum = vec4(0.0);
  for (int y = 0; y < factor; y++) for (int x = 0; x < factor; x++) sum += seen(at + ivec2(x, y));
  colour = sum / float(factor * factor);
}`

/** Linear between the pixels of a small picture; channels that were not blurred stay. */
export const STRETCH = `${HEAD}
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
export const SHIFT = `${HEAD}
uniform vec4 given[3];
vec4 weights(float f) {
  return vec4(f * (f * (1.0 - 0.5 * f) - 0.5), 1.0 + f * f * (1.5 * f - 2.5), f * (0.5 + f * (2.0 - 1.5 * f)), 0.5 * f * f * (f - 1.0));
}
vec4 moved(vec4 turn) {
  vec2 top = vec2(size - 1);
  vec2 from = gl_FragCoord.xy - 0.5 - 0.5 * top - turn.zw;
  vec2 place = clamp(0.5 * top + vec2(turn.x * from.x - turn.y * from.y, turn.y * from.x + turn.x * from.y), vec2(0.0), top);
  ivec2 low = ivec2(place);
  vec4 across = weights(place.x - float(low.x)), down = weights(place.y - float(low.y));
  vec4 sum = vec4(0.0);
  for (int j = 0; j < 4; j++)
    for (int i = 0; i < 4; i++) sum += across[i] * down[j] * seen(low + ivec2(i - 1, j - 1));
  return sum;
}
void main() {
  vec4 first = moved(given[0]);
  float green = given[1] == given[0] ? first.g : moved(given[1]).g;
  float blue = given[2] == given[0] ? first.b : moved(given[2]).b;
  colour = vec4(first.r, green, blue, 1.0);
}`

/**
 * Factors and sums, two texels a point: of a grid whose outer points lie on the picture's edges, or of each pixel's own
 * middle.
 */
export const FIELD = `${HEAD}
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
