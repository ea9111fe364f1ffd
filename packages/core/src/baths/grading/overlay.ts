import Type, { type Static } from 'typebox'
import { cacheKey, evenCurves, mix, type Stage } from '../../stages/stage'
import { number, toggle } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { codeTone } from './codes'
import { contrastCurve } from './contrast'
import { LAID_OVER } from './families'
import { monoShares } from './mixer'

const part = (name: string, fallback: number) =>
  number(-200, 200, fallback, {
    title: `Grey from ${name}`,
    description: `How much of ${name} the copy takes, where it is black and white.`,
    group: 'Grey',
    unit: '%',
    step: 1,
  })

const OverlaySettings = Type.Object(
  {
    mono: toggle(true, {
      title: 'Black and white',
      description: 'The copy without its colour.',
      group: 'Copy',
      first: true,
    }),
    contrast: number(-100, 100, 0, {
      title: 'Contrast',
      description: 'Of the copy, about mid grey.',
      group: 'Copy',
      unit: '%',
      step: 1,
      first: true,
    }),
    blur: number(0, 60, 0, {
      title: 'Blur',
      description: 'Of the copy, in per mille of the picture’s width.',
      group: 'Copy',
      unit: '‰',
      step: 0.5,
      first: true,
    }),
    monoRed: part('red', 30),
    monoGreen: part('green', 59),
    monoBlue: part('blue', 11),
    holdNeutrals: toggle(true, {
      title: 'Sum of 100 %',
      description: 'The shares are scaled so that greys keep their brightness.',
      group: 'Grey',
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof OverlaySettings>

function stages(s: Settings): Stage[] {
  const row = monoShares(s)
  const copy: Stage[] = s.mono ? [mix([row, row, row])] : []
  if (s.contrast !== 0) {
    const curve = contrastCurve({ amount: s.contrast, pivot: 18, toe: 70, shoulder: 70, works: 'colour' })
    copy.push(evenCurves(codeTone(cacheKey('overlay contrast', s.contrast), curve)))
  }
  if (s.blur > 0) copy.push({ at: 'space', space: { kind: 'blur', sigmas: [s.blur, s.blur, s.blur] } })
  return copy
}

/** A copy of the picture, laid over it. */
export const overlay = defineKind({
  id: 'overlay',
  label: 'Copy laid over',
  short: 'Copy over',
  family: { name: LAID_OVER, emblem: [stroke('M2.5 2.5h8v8h-8z'), stroke('M5.5 5.5h8v8h-8z')] },
  stretch: 'finish',
  summary: 'A copy of the line’s or the camera’s picture, black and white, harder or blurred, laid over or under.',
  notes: {
    recipe: 'bypass-overlay-mono',
    about: 'A copy with a mix, a contrast and a blur of its own.',
    model:
      'Shares of the channels, the curve of the contrast bath, a Gaussian; laid by the bath’s mode (W3C Compositing and Blending Level 1), soft light to begin with.',
  },
  schema: OverlaySettings,
  takes: 'line',
  takesEither: true,
  laid: { lay: 'soft-light' },
  stages,
  idle: () => null,
  views: () => [],
})
