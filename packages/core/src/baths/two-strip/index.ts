import { three } from '../../colour/matrix'
import { bt709ToLab } from '../../colour/lab'
import { displayLight } from '../../colour/transfer'
import { throughEmulsion } from '../../film/emulsion'
import { FINISH } from '../../film/ends'
import { TWO_COLOUR_DYES } from '../../spectra/dyes'
import { nmAt } from '../../spectra/grid'
import { plainStages } from '../../stages/plain'
import { ring } from '../emblem'
import { emulsionOf } from '../emulsion'
import { emulsionViews } from '../emulsion-views'
import { defineKind } from '../kind'
import type { View } from '../views'
import { TWO_STRIP_RECORDS, makeTwoStrip } from './film'
import { TwoStripSettings } from './settings'

const finish = plainStages(FINISH)

function palette(s: TwoStripSettings): View {
  const { show } = makeTwoStrip(s)
  const steps = [0, 0.2, 0.45, 0.8, 1.3, 2]
  const out = three()
  const ab: [number, number][] = []
  const swatches = steps.map((green) =>
    steps.map((red): [number, number, number] => {
      show(red, green, out)
      finish(out[0], out[1], out[2], out)
      const lab = bt709ToLab([displayLight(out[0]), displayLight(out[1]), displayLight(out[2])])
      ab.push([lab[1], lab[2]])
      return [out[0], out[1], out[2]]
    }),
  )
  return { view: 'palette', title: 'The colours that two records can hold', swatches, ab }
}

function spectra(): View {
  const line = (label: string, i: 0 | 1, style: 'cyan' | 'warm') => ({
    label,
    style,
    points: Array.from(TWO_COLOUR_DYES[i], (v, n) => [nmAt(n), v] as const),
  })
  return {
    view: 'curves',
    title: 'The two dyes',
    xTitle: 'wavelength, nm',
    yTitle: 'density per unit',
    lines: [line('blue-green', 0, 'cyan'), line('orange-red', 1, 'warm')],
  }
}

/**
 * Two-strip colour. More contrast of a record drives its dye further apart from the other; the balance tilts every grey
 * because each dye covers its own half of the spectrum; blue recovery adds the third record that the process lacks.
 */
export const twoStrip = defineKind({
  id: 'two-strip',
  label: 'Two-strip colour',
  short: 'Two-strip',
  family: { name: 'Two colours', emblem: [ring(6, 8, 4.2), ring(10, 8, 4.2)] },
  notes: {
    recipe: 'two-strip',
    about:
      'Two black-and-white records behind a red and a green glass, printed in blue-green and orange-red dye, or thrown together in two lights.',
    model:
      'Records from spectra and pass bands; print densities of each record become dye amounts; the pair is balanced by a search for the least chroma at mid grey. Projection adds two lights whose sum is white. Blue recovery adds a yellow image from a blue record. Bands from memory.',
  },
  stretch: 'process',
  summary: 'Two records, red and green, in two dyes or two lights: skin and water live, blue and yellow do not.',
  schema: TwoStripSettings,
  takes: 'camera',
  stages: (s) => throughEmulsion(emulsionOf(s), makeTwoStrip(s).parts),
  idle: () => null,
  views: (s) => [
    palette(s),
    spectra(),
    {
      view: 'mixes',
      title: 'What the records see',
      rows: [
        { label: 'red record', mix: TWO_STRIP_RECORDS[0] },
        { label: 'green record', mix: TWO_STRIP_RECORDS[1] },
      ],
    },
    ...emulsionViews(s),
  ],
})
