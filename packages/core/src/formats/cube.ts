import { entriesOf, type CurvesPart, type Grid } from '../look/parts'

/**
 * The open .cube form that many programs read: LUT_3D_SIZE with red running fastest, or LUT_1D_SIZE; numbers over the
 * domain 0..1.
 */
const head = (name: string, about: readonly string[], size: string): string[] => [
  ...about.map((line) => `# ${line.replace(/[\r\n]/g, ' ')}`),
  `TITLE "${name.replace(/["\r\n]/g, ' ')}"`,
  size,
  'DOMAIN_MIN 0 0 0',
  'DOMAIN_MAX 1 1 1',
]

const row = (r: number, g: number, b: number): string => `${r.toFixed(6)} ${g.toFixed(6)} ${b.toFixed(6)}`

/** @param about lines of comment */
export function cubeOfGrid({ side, values }: Grid, name: string, about: readonly string[]): string {
  const rows = head(name, about, `LUT_3D_SIZE ${side}`)
  for (let i = 0; i < values.length; i += 3) rows.push(row(values[i]!, values[i + 1]!, values[i + 2]!))
  return rows.join('\n') + '\n'
}

/** One curve a channel. */
export function cubeOfCurves(curves: CurvesPart, name: string, about: readonly string[]): string {
  const [red, green = red, blue = red] = entriesOf(curves) as [Float64Array, Float64Array?, Float64Array?]
  const rows = Array.from(red, (r, i) => row(r, green[i]!, blue[i]!))
  return [...head(name, about, `LUT_1D_SIZE ${red.length}`), ...rows].join('\n') + '\n'
}
