import { XMLParser, XMLValidator } from 'fast-xml-parser'

/** An element in the order of the file: its name is the key that is no attribute. */
export type Node = Record<string, unknown> & { readonly ':@'?: Record<string, string> }
const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  processEntities: false,
  removeNSPrefix: true,
  preserveOrder: true,
  maxNestedTags: 20,
})
export const nameOf = (node: Node): string => Object.keys(node).find((key) => key !== ':@')!
export const attributesOf = (node: Node): Record<string, string> => node[':@'] ?? {}
export const childrenOf = (node: Node): Node[] => (node[nameOf(node)] as Node[] | undefined) ?? []
export const childOf = (node: Node, name: string): Node | undefined => childrenOf(node).find((c) => nameOf(c) === name)
export const textOf = (node: Node | undefined): string =>
  node
    ? childrenOf(node)
        .map((c) => (nameOf(c) === '#text' ? String(c['#text']) : ''))
        .join(' ')
        .trim()
    : ''

/** The elements of a text. @param wrong makes the error */
export function parseXml(text: string, wrong: (reason: string) => Error): Node[] {
  const problem = XMLValidator.validate(text)
  if (problem !== true) throw wrong(`The file is no whole XML: line ${problem.err.line}: ${problem.err.msg}`)
  return parser.parse(text) as Node[]
}
