import { fieldsOf, kindById } from '@fogbath/core/baths'
import { layName } from '@fogbath/core/lay'
import { atWork, ownSettings, type Bath, type Recipe } from '@fogbath/core/line'
import { html, type Html } from './html'

/** The baths in their order, each with what differs from a new bath of its kind. */
export const lineOf = (recipe: Recipe): Html =>
  html`<section class="line">
    <h2>The line${recipe.strength < 100 ? `, at ${recipe.strength} %` : ''}</h2>
    ${
      recipe.baths.some((bath) => ownSettings(bath).length > 0)
        ? html`<p class="note">In brackets: what a new bath of the kind has.</p>`
        : null
    }
    ${
      recipe.baths.length === 0
        ? html`<p>No bath: the picture passes as it is.</p>`
        : html`<ol>
            ${bathsOf(recipe.baths)}
          </ol>`
    }
  </section>`

const bathsOf = (baths: readonly Bath[]): Html[] => baths.map(bathOf)

function bathOf(bath: Bath): Html {
  const kind = kindById(bath.kind)
  const inner = kind.strand?.(bath.settings) ?? null
  const settings = ownSettings(bath).filter(({ value, usual }) => inner === null || value !== null || usual !== null)
  return html`<li class="${atWork(bath) ? '' : 'out'}">
    <b>${bath.name || kind.label}</b> ${bath.name ? html`<span>${kind.label}</span>` : null}
    <span>${howOf(bath).join(' · ')}</span>
    ${lightsOf(bath)}
    ${settings.length > 0 ? settingsOf(settings) : inner ? null : html`<p class="usual">all settings at their defaults</p>`}
    ${
      inner
        ? html`<ol>
            ${bathsOf(inner)}
          </ol>`
        : null
    }
  </li>`
}

/** The printer lights of a bath that has some, whether they were moved or not. */
function lightsOf({ settings }: Bath): Html | null {
  const lights = ['lightRed', 'lightGreen', 'lightBlue'].map((key) => settings[key])
  if (!lights.every((v) => typeof v === 'number')) return null
  return html`<p class="usual">
    printer lights, red green blue: <span class="mono">${lights.map((v) => String(v)).join(' · ')} pt</span>
  </p>`
}

const settingsOf = (settings: ReturnType<typeof ownSettings>): Html =>
  html`<dl>
    ${settings.map(
      ({ title, value, usual }) =>
        html`<div>
          <dt>${title}</dt>
          <dd>${value ?? 'drawn'}${usual === null ? null : html` <small>(${usual})</small>`}</dd>
        </div> `,
    )}
  </dl>`

/** What a setting of a kind is called in a sentence. */
const titleIn =
  (kind: string) =>
  (name: string): string =>
    fieldsOf<{ readonly title: string }>(kindById(kind).schema)[name]?.title.toLowerCase() ?? name

/** How a bath is laid, in words; nothing where it is laid as usual. */
function howOf({ in: isIn, strength, lay, under, takes, kind, mask, keys }: Bath): string[] {
  const follows = mask?.parts.some((part) => part.follows !== undefined || part.moves !== undefined)
  return [
    ...(isIn ? [] : ['lifted out']),
    ...(strength === 100 ? [] : [`strength ${strength} %`]),
    ...(lay === 'normal' ? [] : [`blended by ${layName(lay)}`]),
    ...(under ? ['laid under'] : []),
    ...(takes === kindById(kind).takes
      ? []
      : [`takes the ${takes === 'camera' ? 'camera’s picture' : 'line’s picture'}`]),
    ...(mask ? [`under a mask${follows ? ' that moves over the shot' : ''}`] : []),
    ...(keys ? [`over the shot changes: ${Object.keys(keys).map(titleIn(kind)).join(', ')}`] : []),
  ]
}
