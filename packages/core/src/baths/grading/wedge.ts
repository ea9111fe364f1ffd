import { six, type Triple } from '../../colour/matrix'
import { codeChroma } from '../../colour/chroma'
import type { Shade } from '../../stages/stage'
import type { Hill, WedgeView } from '../views'

/** Places along the wedge, evenly from black to white. */
const STEPS = 65
const PLACES = Array.from({ length: STEPS }, (_, i) => i / (STEPS - 1))
const clip = (v: number): number => Math.min(1, Math.max(0, v))

/** A range as a hill. @param shape how far a tone, 0..1, goes towards the colour at 100 %, 0..1 */
export const hill = (texts: Omit<Hill, 'shape'>, shape: (luma: number) => number): Hill => ({
  ...texts,
  shape: PLACES.map(shape),
})

/**
 * The grey wedge and what factors and sums by luma make of it.
 * @param full chroma of a colour of 100 %
 */
export function wedgeView(shade: Shade['f'], full: number, parts: Pick<WedgeView, 'hills' | 'limits'>): WedgeView {
  const out = six()
  const made = PLACES.map((code): Triple => {
    shade(code, out)
    return [code * out[0] + out[3], code * out[1] + out[4], code * out[2] + out[5]]
  })
  return {
    view: 'wedge',
    title: 'How much colour each tone takes',
    becomes: made.map(([r, g, b]): Triple => [clip(r), clip(g), clip(b)]),
    amounts: made.map(([r, g, b]) => codeChroma(r, g, b) / full),
    ...parts,
  }
}
