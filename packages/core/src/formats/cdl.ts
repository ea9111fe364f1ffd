import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { FogBathError } from '../errors'
import { triple, type Triple } from '../colour/matrix'

/** One colour correction of the ASC's colour decision list, version 1.2. */
export interface Decision {
  readonly slope: Triple
  readonly offset: Triple
  readonly power: Triple
  readonly saturation: number
}

const wrong = (text: string): FogBathError => new FogBathError('format', 'cdl', text)

/** Longest file that is read, letters; a list of ten thousand corrections is as long. */
export const MOST_DECISION_LETTERS = 4e6

type Element = Record<string, unknown>

/** Elements alone, without their prefixes and as text; entities stay as they are written, for no number has any. */
const parser = new XMLParser({
  ignoreAttributes: true,
  parseTagValue: false,
  processEntities: false,
  removeNSPrefix: true,
  // Deeper than any list of the ASC's.
  maxNestedTags: 40,
})

/**
 * The first correction in a .cc, .ccc or .cdl file. What is missing is neutral, as the ASC has it.
 * Throws naming the element and the rule.
 */
export function readDecision(text: string): Decision {
  if (text.length > MOST_DECISION_LETTERS)
    throw wrong(`The file is longer than ${MOST_DECISION_LETTERS / 1e6} million letters, the most that is read.`)
  if (!text.includes('ColorCorrection')) throw none()
  const one = correctionIn(text)
  const [sop, sat] = [elementIn(one, 'SOPNode'), elementIn(one, 'SatNode')]
  return {
    slope: numbersOf(sop, 'Slope', 3, 0) ?? [1, 1, 1],
    offset: numbersOf(sop, 'Offset', 3, -Infinity) ?? [0, 0, 0],
    power: numbersOf(sop, 'Power', 3, 0) ?? [1, 1, 1],
    saturation: numbersOf(sat, 'Saturation', 1, 0)?.[0] ?? 1,
  }
}

const none = (): FogBathError =>
  wrong('The file holds no ColorCorrection; it is no colour decision list (.cc, .ccc or .cdl).')

/** Where the standard has it: alone, in a collection, or in the decisions of a list. */
function correctionIn(text: string): Element {
  const whole = parsed(text)
  const list = elementIn(whole, 'ColorDecisionList')
  const within = list ? manyIn(list, 'ColorDecision') : [elementIn(whole, 'ColorCorrectionCollection') ?? whole]
  const [first] = within.flatMap((inner) => manyIn(inner, 'ColorCorrection'))
  if (!first) throw none()
  return first
}

function parsed(text: string): Element {
  const problem = XMLValidator.validate(text)
  if (problem !== true)
    throw wrong(`The file is no whole XML: line ${problem.err.line}: ${problem.err.msg.replace(/\.$/, '')}.`)
  try {
    return parser.parse(text) as Element
  } catch (error) {
    throw wrong(`The file cannot be read as XML: ${(error as Error).message}.`)
  }
}

const isElement = (value: unknown): value is Element => typeof value === 'object' && value !== null
const manyIn = (parent: Element, name: string): Element[] => [parent[name]].flat().filter(isElement)
const elementIn = (parent: Element, name: string): Element | undefined => manyIn(parent, name)[0]

/** @param parent undefined where it is missing, and with it the numbers */
function numbersOf(parent: Element | undefined, name: string, count: number, least: number): Triple | undefined {
  const found = parent?.[name]
  if (found === undefined) return undefined
  const text = typeof found === 'string' ? found.trim() : ''
  const words = text.split(/\s+/)
  const numbers = words.map(Number)
  if (text === '' || words.length !== count || !numbers.every(Number.isFinite))
    throw wrong(
      `${name} is '${text.slice(0, 40)}'; it must be ${count === 1 ? 'one finite number' : 'three finite numbers'}.`,
    )
  const low = numbers.find((v) => v < least || (name === 'Power' && v === 0))
  if (low !== undefined) throw wrong(`${name} is ${low}; it must ${name === 'Power' ? 'be above' : 'not be below'} 0.`)
  return triple(numbers)
}

const told = (v: number): string => String(Math.round(v * 1e6) / 1e6)

const safe = (text: string): string => text.replace(/[<>&"]/g, ' ')

/** The element that both kinds of file hold. */
function correction({ slope, offset, power, saturation }: Decision, id: string, note: string): string[] {
  const three = (name: string, list: Triple): string => `    <${name}>${list.map(told).join(' ')}</${name}>`
  return [
    `<ColorCorrection id="${safe(id)}">`,
    `  <Description>${safe(note)}</Description>`,
    '  <SOPNode>',
    three('Slope', slope),
    three('Offset', offset),
    three('Power', power),
    '  </SOPNode>',
    '  <SatNode>',
    `    <Saturation>${told(saturation)}</Saturation>`,
    '  </SatNode>',
    '</ColorCorrection>',
  ]
}

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>'

/** A .cc file. @param id told by the file, any text @param note what the numbers act on */
export const decisionToCc = (decision: Decision, id: string, note: string): string =>
  [HEAD, ...correction(decision, id, note), ''].join('\n')

/** The same as a list of one, a .cdl file. */
export const decisionToCdl = (decision: Decision, id: string, note: string): string =>
  [
    HEAD,
    '<ColorDecisionList xmlns="urn:ASC:CDL:v1.2">',
    '  <ColorDecision>',
    ...correction(decision, id, note).map((line) => `    ${line}`),
    '  </ColorDecision>',
    '</ColorDecisionList>',
    '',
  ].join('\n')
