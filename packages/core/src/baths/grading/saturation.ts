import Type, { type Static } from 'typebox'
import { timesChroma } from '../../colour/matrix'
import { LUMA_709 } from '../../colour/spaces'
import { cacheKey, mix, type PointStage, type Tone } from '../../stages/stage'
import { number, percent } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { rise, shade } from './codes'
import { COLOUR } from './families'

const amount = (title: string, description: string) =>
  number(0, 200, 100, { title, description, group: 'Saturation', unit: '%', step: 1, first: true })

const SaturationSettings = Type.Object(
  {
    overall: amount('Overall', '100 % leaves colour as it is, 0 % leaves grey.'),
    knee: percent(50, {
      title: 'Spare the strong',
      description: 'More colour goes to what is pale; what is saturated already gets so much less of it.',
      group: 'Saturation',
      first: true,
    }),
    darks: amount('Shadows', 'Besides: of dark tones.'),
    mids: amount('Mids', 'Besides: of tones between.'),
    lights: amount('Lights', 'Besides: of light tones.'),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof SaturationSettings>

const CHROMA = { nodes: 'even', from: 0, to: 1.5, steps: 1024 } as const

/** Chroma times, by chroma: with the knee what is added falls off, so that chroma still rises everywhere. */
function chromaGain(s: Settings): (chroma: number) => number {
  const added = s.overall / 100 - 1
  if (added <= 0) return () => 1 + added
  const knee = s.knee / 100
  return (chroma) => 1 + added * (1 - knee + knee / (1 + 3 * chroma) ** 2)
}

const gainTone = (s: Settings): Tone => ({
  key: cacheKey('saturation', s.overall, s.knee),
  axis: CHROMA,
  f: chromaGain(s),
})

/** Chroma times, by luma. */
function byTone(s: Settings, luma: number): number {
  const lights = rise(luma, 0.45, 0.9)
  const darks = 1 - rise(luma, 0.1, 0.5)
  const mids = Math.max(0, 1 - darks - lights)
  return (darks * s.darks + mids * s.mids + lights * s.lights) / (100 * (darks + mids + lights))
}

const even = (s: Settings): boolean => s.darks === 100 && s.mids === 100 && s.lights === 100

function stages(s: Settings): PointStage[] {
  const added = s.overall / 100 - 1
  // The same for every chroma is a matrix, which neighbours take in.
  const overall: PointStage =
    added <= 0 || s.knee === 0 ? mix(timesChroma(LUMA_709, 1 + added)) : { at: 'chroma', gain: gainTone(s) }
  const tones = shade(cacheKey('saturation by tone', s.darks, s.mids, s.lights), (luma, out) => {
    const gain = byTone(s, luma)
    // Towards or away from a grey of the same luma.
    out.fill(gain, 0, 3).fill((1 - gain) * luma, 3)
  })
  return [...(s.overall === 100 ? [] : [overall]), ...(even(s) ? [] : [tones])]
}

const views = (s: Settings): View[] => [
  {
    view: 'curves',
    title: 'Chroma in and out',
    xTitle: 'in',
    yTitle: 'out',
    lines: [
      {
        label: 'unchanged',
        style: 'dashed',
        points: [
          [0, 0],
          [1, 1],
        ],
      },
      { label: 'chroma', style: 'accent', points: sampleLine((c) => c * chromaGain(s)(c), 0, 1) },
    ],
    handles: [{ label: 'overall', x: 0.4, y: 0.4 * chromaGain(s)(0.4), onY: { setting: 'overall', perUnit: 250 } }],
  },
]

/** More or less colour. */
export const saturation = defineKind({
  id: 'saturation',
  label: 'Saturation',
  short: 'Saturation',
  family: { name: COLOUR, emblem: [stroke('M8 2.5c3 4 4.3 5.8 4.3 7.6a4.3 4.3 0 0 1-8.6 0C3.7 8.3 5 6.5 8 2.5z')] },
  stretch: 'finish',
  summary: 'More or less colour, sparing what is saturated already; shadows, mids and lights apart.',
  notes: {
    recipe: 'cool-and-gritty',
    about: 'Colour away from grey, or towards it.',
    model:
      'Chroma (distance from grey in the hexagon’s plane) times 1 + a, a = overall - 1; above 0 a is multiplied by 1 - k + k / (1 + 3·chroma)², k the share spared. By tone: away from a grey of the same luma (BT.709). Luma stays.',
  },
  schema: SaturationSettings,
  takes: 'line',
  sample: { overall: 160 },
  stages,
  idle: (s) => (s.overall === 100 && even(s) ? 'all its amounts are 100 %' : null),
  views,
})
