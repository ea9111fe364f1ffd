import { kindById } from '@fogbath/core/baths'
import { atWork, tellBaths, type Around, type Recipe } from '@fogbath/core/line'
import { chartOf } from './charts'
import { html, NOTHING, type Html } from './html'
import { lineOf } from './line'
import { STYLE } from './style'
import { figuresOf, stripsOf, wedgeOf } from './tables'

/** What a sheet tells besides the recipe. */
export interface SheetFacts {
  /** Where the recipe stands: 'as shipped', 'shelf, version 3', 'treatment of the shot'. */
  readonly version: string
  /** The day, as its reader writes days. */
  readonly date: string
  /** The footage that is shown, or null without one. */
  readonly shot: SheetShot | null
}

export interface SheetShot {
  readonly name: string
  readonly production: string | null
  readonly file: string
  readonly frame: number
  readonly timecode: string
  /** SHA-256 of the file, where it is known. */
  readonly sha256: string | null
  /** What the shot adds around the recipe. */
  readonly around: Around
  /** Notes on the shot, each with the frame or the shot that it is on. */
  readonly notes: readonly { readonly at: string; readonly text: string; readonly author: string }[]
  /** Pictures as addresses that an image takes. */
  readonly before: string
  readonly after: string
}

/** The process on paper: one or two pages. @returns HTML of a `.paper` with its style, to be put into a page */
export async function sheetOf(recipe: Recipe, facts: SheetFacts): Promise<string> {
  const charts = recipe.baths
    .filter(atWork)
    .flatMap((bath) => kindById(bath.kind).views(bath.settings as never))
    .flatMap((view) => chartOf(view) ?? [])
  const hash = await hashOf(recipe)
  return html`<style>
      ${{ html: STYLE }}
    </style>
    <article class="paper" lang="en">
      ${headOf(recipe, facts, hash)} ${facts.shot ? picturesOf(facts.shot) : NOTHING}
      <section>
        <h2>Wedge and patches</h2>
        ${stripsOf(recipe)}
      </section>
      ${lineOf(recipe)}
      <section>
        <h2>What it does</h2>
        ${figuresOf(recipe)}
      </section>

      ${
        charts.length > 0
          ? html`<section>
              <h2>Curves, dyes and records</h2>
              <div class="charts">${charts}</div>
            </section>`
          : NOTHING
      }
      ${facts.shot ? notesOf(facts.shot) : NOTHING} ${wedgeOf(recipe)} ${footOf(facts, hash)}
    </article>`.html
}

function headOf(recipe: Recipe, { version, date, shot }: SheetFacts, hash: string): Html {
  const rows = [
    ['version', version],
    ['date', date],
    ...(shot?.production ? [['production', shot.production]] : []),
    ['recipe', hash.slice(0, 12)],
  ]
  return html`<header>
    <h1>${recipe.name}</h1>
    <dl>
      ${rows.map(
        ([name, value]) =>
          html`<dt>${name!}</dt>
            <dd>${value!}</dd>`,
      )}
    </dl>
    <p>${recipe.summary}</p>
  </header>`
}

const picturesOf = ({ name, frame, timecode, around, before, after }: SheetShot): Html =>
  html`<div class="pictures">
    <figure>
      <img src="${before}" alt="The footage" />
      <figcaption>Footage. ${name}, frame ${frame}, <span class="mono">${timecode}</span></figcaption>
    </figure>
    <figure>
      <img src="${after}" alt="Through the process" />
      <figcaption>${aroundOf(around)}</figcaption>
    </figure>
  </div>`

function aroundOf({ preparation, after }: Around): string {
  const told = (where: string, words: string): string => (words ? ` ${where} on this shot: ${words}.` : '')
  const words = told('Before it', tellBaths(preparation)) + told('After it', tellBaths(after))
  return words ? `Through the recipe.${words}` : 'Through the recipe alone.'
}

const notesOf = ({ notes }: SheetShot): Html =>
  notes.length === 0
    ? NOTHING
    : html`<section>
        <h2>Notes</h2>
        <dl>
          ${notes.map(
            ({ at, text, author }) =>
              html`<dt>${at}</dt>
                <dd>${text}${author ? ` (${author})` : ''}</dd>`,
          )}
        </dl>
      </section>`

const footOf = ({ shot }: SheetFacts, hash: string): Html =>
  html`<footer>
    <span>Recipe, SHA-256 <span class="mono">${hash}</span></span>
    ${shot ? html`<span>${shot.file}${shot.sha256 ? html`, SHA-256 <span class="mono">${shot.sha256}</span>` : null}</span>` : null}
  </footer>`

/** SHA-256 of what a recipe does, in hexadecimal: its name and place on the shelf do not count. */
async function hashOf({ strength, baths }: Recipe): Promise<string> {
  const bytes = new TextEncoder().encode(JSON.stringify({ strength, baths }))
  const digest = await crypto.subtle.digest('SHA-256', bytes)
  return Array.from(new Uint8Array(digest), (b) => b.toString(16).padStart(2, '0')).join('')
}
