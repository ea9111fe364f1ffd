import { CAMERA_NEGATIVE, densityAt, develop } from '../../film/curve'
import { throughEmulsion, works } from '../../film/emulsion'
import { iso6Contrast } from '../../film/speed'
import { gilds, tone } from '../../film/toning'
import { stroke } from '../emblem'
import { emulsionOf } from '../emulsion'
import { emulsionViews } from '../emulsion-views'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { bathsOf, makeMono } from './film'
import { MonoSettings } from './settings'

/** The band of sulphide that gold has turned. */
const GILDED = 'gilded'

function views(s: MonoSettings): View[] {
  const film = makeMono(s)
  const baths = bathsOf(s)
  const printed = (x: number) => densityAt(film.print, film.printerLight - film.negative(0.18 * 10 ** x))
  const densities = Array.from({ length: 33 }, (_, i) => 0.02 + (i * 2.4) / 32)
  const shares = densities.map((d) => tone(d, baths).map((v) => v / d))
  const { rise } = iso6Contrast(develop(CAMERA_NEGATIVE, s.push))
  const sum = film.record.reduce((a, b) => a + b, 0)
  const toning: View = {
    view: 'toning',
    title: 'What the silver became, by density',
    densities,
    bands: ['silver', ...baths.map((b) => b.toner), ...(gilds(baths) ? [GILDED] : [])].map((name, i) => ({
      label: i === 0 ? 'silver' : name === GILDED ? 'gold on sulphide' : `${i} ${name.replace('-', ' ')}`,
      style: name,
      shares: shares.map((row) => row[i]!),
    })),
  }
  const curves: View = {
    view: 'curves',
    title: 'Characteristic curves',
    xTitle: 'log exposure of the scene, 0 = mid grey',
    yTitle: 'density',
    lines: [
      {
        label: `negative (rises ${rise.toFixed(2)} in 1.30, ISO 6)`,
        style: 'plain',
        points: sampleLine((x) => film.negative(0.18 * 10 ** x), -3, 2.5),
      },
      { label: 'print', style: 'accent', points: sampleLine(printed, -3, 2.5) },
    ],
    handles: [{ label: 'grade', x: -0.5, y: printed(-0.5), onY: { setting: 'grade', perUnit: 4 } }],
  }
  const mixes: View = {
    view: 'mixes',
    title: `What the film sees; the sum is ${(100 * sum).toFixed(0)} %`,
    rows: [{ label: 'record', mix: film.record }],
  }
  return [...(baths.length > 0 ? [toning] : []), curves, mixes, ...emulsionViews(s)]
}

/**
 * Black and white, toned and tinted. Orthochromatic film darkens red; a filter darkens its complement; a harder grade
 * steepens; each toner converts silver that is still there, so their order shows; a tint colours only what is light.
 */
export const mono = defineKind({
  id: 'black-and-white',
  label: 'Black and white, toned',
  short: 'Black and white',
  family: { name: 'Black and white', emblem: [stroke('M2 6h12l-1.6 7H3.6z'), stroke('M4 3.5c2 1.5 6-1.5 8 0')] },
  notes: {
    recipe: 'split-tone',
    about:
      'One record in silver; toning baths turn silver into coloured compounds one after the other; a dyed base colours the lights.',
    model:
      'Sensitivity and glass by spectrum; print curve by grade; toning conserves silver: each bath converts a share of what is left, sulphide the light areas first, selenium the dense ones, gold turning sulphide as well (common practice); litho development runs away at a density of 0.9 (from memory); compounds and tints as spectral densities (from memory).',
  },
  stretch: 'process',
  summary: 'One record, printed in silver; up to four toning baths in order, and a dyed base.',
  schema: MonoSettings,
  takes: 'camera',
  stages: (s) => {
    const film = makeMono(s)
    const emulsion = emulsionOf(s, { push: s.push, clearPrint: film.print.dmin })
    // Nothing of it at work, all is one ramp.
    return works(emulsion) ? throughEmulsion(emulsion, film.parts) : film.stages
  },
  idle: () => null,
  views,
})
