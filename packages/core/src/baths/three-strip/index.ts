import { three } from '../../colour/matrix'
import { IMBIBITION_DYES } from '../../spectra/dyes'
import { nmAt } from '../../spectra/grid'
import { stroke } from '../emblem'
import { plainStages } from '../../stages/plain'
import type { Stage } from '../../stages/stage'
import { throughEmulsion } from '../../film/emulsion'
import { emulsionOf } from '../emulsion'
import { emulsionViews } from '../emulsion-views'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { RECORDS, THREE_STRIP_RECORDS, makeThreeStrip } from './film'
import { ThreeStripSettings } from './settings'

const DYES = ['cyan', 'magenta', 'yellow'] as const

function stages(s: ThreeStripSettings): readonly Stage[] {
  const { parts } = makeThreeStrip(s)
  const shifts = [
    { x: s.acrossRed, y: s.downRed, rotation: s.turnRed },
    { x: s.acrossGreen, y: s.downGreen, rotation: s.turnGreen },
    { x: s.acrossBlue, y: s.downBlue, rotation: s.turnBlue },
  ] as const
  const sigmas = [s.bleedCyan, s.bleedMagenta, s.bleedYellow] as const
  const space: Stage[] = []
  if (shifts.some((v) => v.x !== 0 || v.y !== 0 || v.rotation !== 0))
    space.push({ at: 'space', space: { kind: 'shift', records: shifts } })
  if (sigmas.some((v) => v > 0)) space.push({ at: 'space', space: { kind: 'blur', sigmas } })
  return throughEmulsion(emulsionOf(s), { ...parts, shown: [...space, ...parts.shown] })
}

function views(s: ThreeStripSettings): View[] {
  const { exposed, negative, print } = makeThreeStrip(s).parts
  const densities = plainStages([...exposed, ...negative, ...print])
  const out = three()
  const density = (k: number) => (x: number) => {
    const light = 0.18 * 10 ** x
    densities(light, light, light, out)
    return out[k]! * [s.amountCyan, s.amountMagenta, s.amountYellow][k]! * 0.01
  }
  return [
    {
      view: 'curves',
      title: 'Matrices: density of each dye image',
      xTitle: 'log exposure of the scene, 0 = mid grey',
      yTitle: 'density',
      lines: DYES.map((style, k) => ({ label: style, style, points: sampleLine(density(k), -3, 2) })),
      handles: (['contrastCyan', 'contrastMagenta', 'contrastYellow'] as const).map((setting, k) => ({
        label: setting,
        x: -0.4 - 0.25 * k,
        y: density(k)(-0.4 - 0.25 * k),
        onY: { setting, perUnit: 60 },
      })),
    },
    {
      view: 'mixes',
      title: 'What the separations see',
      rows: RECORDS.map((label, k) => ({ label, mix: THREE_STRIP_RECORDS[k]! })),
    },
    {
      view: 'curves',
      title: 'Imbibition dyes',
      xTitle: 'wavelength, nm',
      yTitle: 'density per unit',
      lines: DYES.map((style, k) => ({
        label: style,
        style,
        points: Array.from(IMBIBITION_DYES[k]!, (v, i) => [nmAt(i), v] as const),
      })),
    },
    ...emulsionViews(s),
  ]
}

/**
 * Three-strip dye transfer. Purer dyes and separated records give more saturated colour than a print that develops its
 * dyes; each dye takes away only its complementary light (cyan red, magenta green, yellow blue), so amounts act on one
 * primary. Where the records do not lie exactly over each other coloured fringes stand at edges.
 */
export const threeStrip = defineKind({
  id: 'three-strip',
  label: 'Three-strip dye transfer',
  short: 'Three-strip',
  family: { name: 'Dye transfer', emblem: [stroke('M3 2.5v11M8 2.5v11M13 2.5v11', 2.2)] },
  notes: {
    recipe: 'three-strip',
    about: 'Three separations make matrices that carry dye to one blank, over a weak silver key image.',
    model:
      'Separation records from spectra, an inter-image matrix, a print curve for each matrix, imbibition dyes by equivalent neutral density, key silver from the green record. Registration and bleed act on the dye densities, before they are projected.',
  },
  stretch: 'process',
  summary: 'Three separations printed one over the other in pure dyes, with a silver key image.',
  schema: ThreeStripSettings,
  takes: 'camera',
  stages,
  idle: () => null,
  views,
})
