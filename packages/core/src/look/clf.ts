import { entriesOf, type Part } from './parts'

/**
 * Common LUT Format, version 3 (Academy S-2014-006): an XML list of process nodes. Numbers are 32-bit floats throughout;
 * tables of curves over half floats use the format's half domain, others are led into 0..1 by a matrix.
 */
export interface ClfTexts {
  readonly id: string
  readonly name: string
  /** One Description element each. */
  readonly about: readonly string[]
  readonly takes: string
  readonly gives: string
}

const safe = (text: string): string =>
  text.replace(/[<>&"]/g, (c) => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;' })[c] ?? '&quot;')
/** Six digits, or nine places: a thousandth of what eight bits tell apart. */
const told = (v: number): string => (Math.abs(v) < 1e-9 ? '0' : v.toPrecision(6))
const DEPTH = 'inBitDepth="32f" outBitDepth="32f"'

export function partsToClf(parts: readonly Part[], texts: ClfTexts): string {
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<ProcessList id="${safe(texts.id)}" name="${safe(texts.name)}" compCLFversion="3.0">`,
    ...texts.about.map((line) => `  <Description>${safe(line)}</Description>`),
    `  <InputDescriptor>${safe(texts.takes)}</InputDescriptor>`,
    `  <OutputDescriptor>${safe(texts.gives)}</OutputDescriptor>`,
    ...parts.flatMap(nodesOf),
    '</ProcessList>',
    '',
  ].join('\n')
}

function nodesOf(part: Part): string[] {
  if (part.part === 'matrix')
    return matrixNode(part.matrix.map((row, k) => [...row, part.offset[k]!] as readonly number[]))
  if (part.part === 'grid') {
    const { side, from, to, values } = part.grid
    return [...intoUnit(from, to), ...gridNode(side, values)]
  }
  const { domain } = part
  // One column is meant for all three channels.
  const columns = entriesOf(part)
  const table = [
    `  <LUT1D ${DEPTH}${domain === 'half' ? ' halfDomain="true"' : ''}>`,
    `    <Array dim="${columns[0]!.length} ${columns.length}">`,
    ...Array.from(columns[0]!, (_, i) => columns.map((entries) => told(entries[i]!)).join(' ')),
    '    </Array>',
    '  </LUT1D>',
  ]
  if (domain === 'half') return table
  const { from, to } = domain
  return [...intoUnit([from, from, from], [to, to, to]), ...table]
}

const matrixNode = (rows: readonly (readonly number[])[]): string[] => [
  `  <Matrix ${DEPTH}>`,
  '    <Array dim="3 4">',
  ...rows.map((row) => `      ${row.map(told).join(' ')}`),
  '    </Array>',
  '  </Matrix>',
]

/** The box of a table led into 0..1. */
function intoUnit(from: readonly number[], to: readonly number[]): string[] {
  if (from.every((v) => v === 0) && to.every((v) => v === 1)) return []
  return matrixNode(
    from.map((low, k) => {
      const per = 1 / (to[k]! - low)
      return [...from.map((_, j) => (j === k ? per : 0)), -low * per]
    }),
  )
}

/** The format's last index runs fastest over blue; ours over red. */
function gridNode(side: number, values: Float64Array): string[] {
  const rows: string[] = []
  for (let r = 0; r < side; r++)
    for (let g = 0; g < side; g++)
      for (let b = 0; b < side; b++) {
        const at = 3 * (r + side * (g + side * b))
        rows.push(`${told(values[at]!)} ${told(values[at + 1]!)} ${told(values[at + 2]!)}`)
      }
  return [
    `  <LUT3D ${DEPTH} interpolation="tetrahedral">`,
    `    <Array dim="${side} ${side} ${side} 3">`,
    ...rows,
    '    </Array>',
    '  </LUT3D>',
  ]
}
