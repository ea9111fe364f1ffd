import { FogBathError } from '../errors'
import type { Triple } from '../colour/matrix'

/** One colour correction of the ASC's colour decision list, version 1.2. */
export interface Decision {
  readonly slope: Triple
  readonly offset: Triple
  readonly power: Triple
  readonly saturation: number
}

const wrong = (text: string): FogBathError => new FogBathError('format', 'cdl', text)

/**
 * The first correction in a .cc, .ccc or .cdl file. What is missing is neutral, as the ASC has it.
 * Throws naming the element and the rule.
 */
export function readDecision(text: string): Decision {
  if (!/<(\w+:)?(ColorCorrection|ColorDecisionList|ColorCorrectionCollection)\b/.test(text))
    throw wrong('The file holds no ColorCorrection; it is no colour decision list (.cc, .ccc or .cdl).')
  const one = /<(?:\w+:)?ColorCorrection\b[^>]*>([\s\S]*?)<\/(?:\w+:)?ColorCorrection>/.exec(text)?.[1]
  if (one === undefined) throw wrong('The colour decision list holds no whole ColorCorrection.')
  return {
    slope: numbersOf(one, 'Slope', 3, 0) ?? [1, 1, 1],
    offset: numbersOf(one, 'Offset', 3, -Infinity) ?? [0, 0, 0],
    power: numbersOf(one, 'Power', 3, 0) ?? [1, 1, 1],
    saturation: numbersOf(one, 'Saturation', 1, 0)?.[0] ?? 1,
  }
}

function numbersOf(text: string, name: string, count: number, least: number): Triple | undefined {
  const found = new RegExp(`<(?:\\w+:)?${name}\\b[^>]*>([\\s\\S]*?)</`).exec(text)?.[1]
  if (found === undefined) return undefined
  const words = found.trim().split(/\s+/)
  const numbers = words.map(Number)
  if (words.length !== count || !numbers.every(Number.isFinite))
    throw wrong(
      `${name} is '${found.trim().slice(0, 40)}'; it must be ${count === 1 ? 'one finite number' : 'three finite numbers'}.`,
    )
  const low = numbers.find((v) => v < least || (name === 'Power' && v === 0))
  if (low !== undefined) throw wrong(`${name} is ${low}; it must ${name === 'Power' ? 'be above' : 'not be below'} 0.`)
  return numbers as unknown as Triple
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
