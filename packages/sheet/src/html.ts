/** Text that is HTML already. */
export interface Html {
  readonly html: string
}
type Part = Html | string | number | null | readonly Html[]

const escaped = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)

const textOf = (part: Part): string => {
  if (part === null) return ''
  if (typeof part === 'string') return escaped(part)
  if (typeof part === 'number') return String(part)
  return 'html' in part ? part.html : part.map(({ html }) => html).join('')
}

/** HTML from a template; whatever is put in is text and escaped, unless it is HTML itself. */
export const html = (texts: TemplateStringsArray, ...parts: readonly Part[]): Html => ({
  html: texts.reduce((all, text, i) => all + textOf(parts[i - 1] ?? null) + text),
})

export const NOTHING: Html = { html: '' }
