/**
 * Words by which a practitioner may look for what a kind does, beside its own texts: terms of several programs and of the trade
 * (common practice).
 */
export const THESAURUS: Readonly<Record<string, string>> = {
  balance:
    'exposure, brightness, white balance, wb, colour temperature, color temperature, kelvin, tint, levels, black point, white point, highlight recovery, roll-off, shoulder, iso, warmer, cooler',
  'printer-lights': 'printer points, timing, colour timing, rgb offset, offset',
  timing: 'trim, scene correction, exposure trim',
  cdl: 'slope, offset, power, primaries, primary correction, asc',
  'input-lut': 'lut, cube, log, camera log, transform, input transform, technical lut, 3d lut',
  'colour-print':
    'film look, film emulation, print film, print stock, film stock, bleach bypass, silver retention, skip bleach, push, pull, flash, negative',
  'two-strip': 'dye transfer, early colour, vintage',
  'three-strip': 'dye transfer, saturated, classic colour, separations',
  'black-and-white':
    'monochrome, mono, bw, b&w, greyscale, grayscale, sepia, toning, noir, silver print, cyanotype, selenium',
  instant: 'instant film, snapshot, retro, vintage, pastel',
  'false-colour': 'infrared, ir, false color, psychedelic',
  'aged-print': 'faded, fading, vintage, old, retro, nostalgia, washed out, magenta cast',
  contrast: 'pivot, punch, s-curve, flatten, gamma',
  curves: 'tone curve, rgb curves, custom curve, s-curve, gamma, levels, log curve, blacks, whites',
  ranges: 'lift, gamma, gain, shadows, midtones, highlights, blacks, whites, colour wheels, three-way, tonal ranges',
  saturation: 'vibrance, color boost, colour boost, desaturate, colourfulness',
  'hue-response':
    'hsl, hue versus hue, hue vs hue, hue vs sat, hue versus saturation, secondary, secondaries, selective colour, selective color',
  mixer: 'channel mixer, rgb mixer, matrix, swap channels, channels',
  'split-by-hand': 'split toning, split tone, teal and orange, tint shadows, tint highlights',
  veil: 'colour wash, color wash, photo filter, solid colour, tint, gel, overlay',
  overlay: 'blend, blend mode, layer, duplicate layer, soft light, multiply, screen, opacity',
  'picked-colour': 'replace colour, replace color, qualifier, keyer, selective colour',
  detail: 'sharpen, sharpness, unsharp mask, clarity, texture, denoise, noise reduction, smooth, edges',
  softness: 'blur, soft focus, defocus, gaussian, lens, anamorphic edge',
  glow: 'bloom, diffusion, mist, diffusion filter, dreamy, halo',
  halation: 'red glow, halo, bloom',
  haze: 'fog, mist, atmosphere, lift blacks, low contrast filter, flare',
  grain: 'noise, film grain, texture, iso',
  dust: 'scratches, dirt, hair, damage, sparkle',
  weave: 'gate weave, jitter, shake, unsteady, flicker, camera shake',
  frame: 'crop, letterbox, pillarbox, aspect ratio, border, matte, bars, reframe, blanking, vertical, square',
  vignette: 'dark corners, falloff, edge darkening',
  'shade-spread': 'diffusion, enlarger diffusion, dark glow',
  strand: 'group, node, layer, branch, parallel, compound, folder',
}

/** How well a word names a kind by this: 0 not at all, 1 within a term, 2 the beginning of a term, 3 a term itself. */
export function namedBy(kindId: string, word: string): number {
  const terms = (THESAURUS[kindId] ?? '').split(', ')
  if (terms.includes(word)) return 3
  if (terms.some((term) => term.startsWith(word))) return 2
  return terms.some((term) => term.includes(word)) ? 1 : 0
}
