import { PATCHES, WEDGE } from '@fogbath/core/charts'
import { type Triple, three } from '@fogbath/core/colour'
import { plainSteps, type Recipe } from '@fogbath/core/line'
import { lineFigures, readWedge } from '@fogbath/core/readings'
import { rgb } from './colour-charts'
import { html, type Html } from './html'

/** Wedge and patches as the footage shows them and as the screen does. */
export function stripsOf(recipe: Recipe): Html {
  const { footage, whole } = plainSteps(recipe)
  const out = three()
  const lights: Triple[] = [...WEDGE.map((v): Triple => [v, v, v]), ...PATCHES.map((p) => p.light)]
  const row = (name: string, point: typeof whole): Html =>
    html`<div class="strip">
      <span>${name}</span>
      ${lights.map((light) => {
        point(...light, out)
        return html`<i style="background:${rgb(Array.from(out))}"></i>`
      })}
    </div>`
  return html`${row('footage', footage)}${row('screen', whole)}`
}

export const figuresOf = (recipe: Recipe): Html =>
  html`<dl class="figures">
    ${lineFigures(
      plainSteps(recipe).whole,
      plainSteps({ ...recipe, baths: [] }).footage,
      recipe.baths.some((b) => b.mask !== null),
    ).map(
      ({ label, text }) =>
        html`<div>
          <dt>${label}</dt>
          <dd>${text}</dd>
        </div> `,
    )}
  </dl>`

const stops = (v: number): string => `${v < -0.005 ? '−' : v > 0.005 ? '+' : ''}${Math.abs(v).toFixed(1)}`
const cells = (values: Triple | undefined): Html =>
  values
    ? html`${values.map((v) => html`<td>${v.toFixed(2)}</td>`)}`
    : html`<td></td>
        <td></td>
        <td></td>`

/** The grey wedge step by step. */
export function wedgeOf(recipe: Recipe): Html {
  const steps = readWedge(recipe)
  const prints = steps.some((s) => s.print)
  return html`<section class="wedge">
    <h2>The grey wedge, step by step</h2>
    <table>
      <thead>
        <tr>
          <th rowspan="2"></th>
          <th rowspan="2">stops</th>
          ${
            prints
              ? html`<th colspan="3">print, Status A</th>
                  <th colspan="3">print, Status M</th>`
              : null
          }
          <th colspan="3">code value, 0–255</th>
          <th colspan="3">CIE L* a* b*</th>
        </tr>
        <tr>
          ${
            prints
              ? html`<th>R</th>
                  <th>G</th>
                  <th>B</th>
                  <th>R</th>
                  <th>G</th>
                  <th>B</th>`
              : null
          }
          <th>R</th>
          <th>G</th>
          <th>B</th>
          <th>L*</th>
          <th>a*</th>
          <th>b*</th>
        </tr>
      </thead>
      <tbody>
        ${steps.map(
          ({ stops: at, print, code, lab }) =>
            html`<tr>
              <td><i style="background:${rgb(code)}"></i></td>
              <th>${stops(at)}</th>
              ${prints ? html`${cells(print?.A)}${cells(print?.M)}` : null}
              ${code.map((v) => html`<td>${(255 * v).toFixed(0)}</td>`)}${lab.map((v) => html`<td>${v.toFixed(1)}</td>`)}
            </tr>`,
        )}
      </tbody>
    </table>
    <p class="note">
      Steps of 0.15 in density; 0 stops is mid grey, scene light 0.18.
      ${
        prints
          ? 'Print densities are of dyes, silver and base together, through bells at 620, 530 and 440 nm (Status A) and 640, 540 and 450 nm (Status M).'
          : 'No bath of this line makes a print.'
      }
    </p>
  </section>`
}
