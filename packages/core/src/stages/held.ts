/**
 * How the nodes of a solid hold light: as w with light = 0.03·(w + w³/6 + w⁵/120), the beginning of 0.03·sinh(w). Light
 * falls off exponentially with density, so w is nearly straight over density and few nodes are enough; about 0, where
 * colours leave the gamut, it is smooth. Opening it takes five multiplications (own design).
 */
export const UNIT = 0.03

export function openHeld(w: number): number {
  const square = w * w
  return UNIT * w * (1 + square * (1 / 6 + square / 120))
}

/** The w of a light; Newton's method from the inverse of sinh, to the last digits. */
export function held(light: number): number {
  let w = Math.asinh(light / UNIT)
  for (let i = 0; i < 6; i++) {
    const square = w * w
    const slope = UNIT * (1 + square * (0.5 + square / 24))
    const step = (openHeld(w) - light) / slope
    w -= step
    if (Math.abs(step) < 1e-9 * (1 + Math.abs(w))) break
  }
  return w
}
