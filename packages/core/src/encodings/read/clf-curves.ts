import { rangeOf, same, type LogOp, type Op, type PerChannel } from '../ops/op'
import { numbersIn, wrong, type Given } from './clf-given'
import { attributesOf, childOf, childrenOf, nameOf, textOf, type Node } from './xml'

export function rangeOp({ node, full }: Given): Op {
  const value = (name: string, of: number): number | null => {
    const child = childOf(node, name)
    return child ? numbersIn(textOf(child), name)[0]! / of : null
  }
  const ends = {
    minIn: value('minInValue', full.in),
    maxIn: value('maxInValue', full.in),
    minOut: value('minOutValue', full.out),
    maxOut: value('maxOutValue', full.out),
  }
  const { minIn, maxIn } = ends
  if (minIn === null && maxIn === null) throw wrong('A Range names neither minInValue nor maxInValue.')
  if (minIn !== null && maxIn !== null && maxIn <= minIn)
    throw wrong(`A Range has maxInValue ${maxIn} not above minInValue ${minIn}.`)
  return rangeOf(ends, attributesOf(node)['style'] !== 'noClamp')
}

/** Parameters that may be given once for all channels, or for each by its name. */
function parametersOf(node: Node, element: string, name: string, fallback: number | null): PerChannel | null {
  const found: (number | null)[] = [null, null, null]
  for (const child of childrenOf(node).filter((c) => nameOf(c) === element)) {
    const { channel, [name]: text } = attributesOf(child)
    if (text === undefined) continue
    const at = channel ? ['R', 'G', 'B'].indexOf(channel) : -1
    const value = numbersIn(text, `${element} ${name}`)[0]!
    for (let k = 0; k < 3; k++) if (!channel || k === at) found[k] = value
  }
  if (found.every((v) => v === null)) return fallback === null ? null : same(fallback)
  return found.map((v) => v ?? fallback ?? 0) as unknown as PerChannel
}

export function logOp({ node, name }: Given): Op {
  const style = attributesOf(node)['style'] ?? ''
  const plain = (base: number, back: boolean): LogOp => ({
    op: 'log',
    back,
    base,
    logSlope: same(1),
    logOffset: same(0),
    linSlope: same(1),
    linOffset: same(0),
    linBreak: null,
    linearSlope: null,
  })
  const simple: Record<string, LogOp> = {
    log10: plain(10, false),
    antiLog10: plain(10, true),
    log2: plain(2, false),
    antiLog2: plain(2, true),
  }
  if (simple[style]) return simple[style]
  const known = /^(linToLog|logToLin|cameraLinToLog|cameraLogToLin)$/.test(style)
  if (!known) throw wrong(`${name} has the style '${style}', which is none of the Common LUT Format.`)
  const of = (field: string, fallback: number | null) => parametersOf(node, 'LogParams', field, fallback)
  const camera = style.startsWith('camera')
  const linBreak = camera ? of('linSideBreak', null) : null
  if (camera && !linBreak) throw wrong(`${name} is of the style ${style} and has no linSideBreak.`)
  return {
    op: 'log',
    back: style.endsWith('ToLin'),
    base: of('base', 2)![0],
    logSlope: of('logSideSlope', 1)!,
    logOffset: of('logSideOffset', 0)!,
    linSlope: of('linSideSlope', 1)!,
    linOffset: of('linSideOffset', 0)!,
    linBreak,
    linearSlope: camera ? of('linearSlope', null) : null,
  }
}

export function exponentOp({ node, name }: Given): Op {
  const style = attributesOf(node)['style'] ?? ''
  const power = parametersOf(node, 'ExponentParams', 'exponent', 1)!
  const back = style.endsWith('Rev')
  if (/^basic(Mirror|PassThru)?(Fwd|Rev)$/.test(style)) {
    const below = style.includes('Mirror') ? 'mirror' : style.includes('PassThru') ? 'pass' : 'clamp'
    return { op: 'exponent', below, power: back ? [1 / power[0], 1 / power[1], 1 / power[2]] : power }
  }
  if (/^monCurve(Mirror)?(Fwd|Rev)$/.test(style)) {
    const offset = parametersOf(node, 'ExponentParams', 'offset', 0)!
    return { op: 'moncurve', back, power, offset, mirror: style.includes('Mirror') }
  }
  throw wrong(`${name} has the style '${style}', which is none of the Common LUT Format.`)
}

export function cdlOp({ node }: Given): Op {
  const style = attributesOf(node)['style'] ?? 'Fwd'
  const three = (name: string, fallback: number): PerChannel => {
    const sop = childOf(node, 'SOPNode')
    const child = sop && childOf(sop, name)
    const numbers = child ? numbersIn(textOf(child), name) : []
    return numbers.length === 3 ? (numbers as unknown as PerChannel) : same(fallback)
  }
  const sat = childOf(node, 'SatNode')
  const saturation = sat ? (numbersIn(textOf(childOf(sat, 'Saturation')), 'Saturation')[0] ?? 1) : 1
  const terms = { slope: three('Slope', 1), offset: three('Offset', 0), power: three('Power', 1), saturation }
  return { op: 'cdl', back: style.startsWith('Rev'), ...terms, clamp: !style.endsWith('NoClamp') }
}
