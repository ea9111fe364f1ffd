import { Marked } from 'marked'

/** Pages of the documentation as the program brings them, by their path without ending; each is fetched when it is opened. */
const PAGES = import.meta.glob<string>(['../../../../docs/baths/*.md', '../../../../docs/bench.md'], {
  query: '?raw',
  import: 'default',
})

/** Links and pictures lead into the repository, which is not here. */
const marked = new Marked({
  renderer: {
    link({ tokens }) {
      return this.parser.parseInline(tokens)
    },
    image: () => '',
  },
})

/**
 * A page as HTML.
 * @param page such as `baths/contrast`, or `bench#line` for one heading of a page and what stands under it
 */
export async function docsPage(page: string): Promise<string> {
  const [path, heading] = page.split('#')
  const load = PAGES[`../../../../docs/${path}.md`]
  if (!load) throw new Error(`There is no page '${page}' in the documentation.`)
  const text = await load()
  const part = heading ? text.split(/^(?=## )/m).find((p) => p.toLowerCase().startsWith(`## ${heading}`)) : text
  if (part === undefined) throw new Error(`There is no heading '${heading}' on the page '${path}'.`)
  return marked.parse(part, { async: false })
}
