import Type, { type Static } from 'typebox'
import { matrix, triple, type Matrix3, type Triple } from '../../colour/matrix'
import { LUMA_709 } from '../../colour/spaces'
import { mix, type PointStage } from '../../stages/stage'
import { choice, number, toggle, type FieldTexts } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { COLOUR } from './families'

const CHANNELS = ['red', 'green', 'blue'] as const
type Channel = (typeof CHANNELS)[number]
const capital = (name: string): string => name[0]!.toUpperCase() + name.slice(1)

const share = (fallback: number, texts: Omit<FieldTexts, 'group'> & { group: string }) =>
  number(-200, 200, fallback, { unit: '%', step: 1, control: 'drawn', ...texts })

function rowFields<C extends Channel>(to: C) {
  const group = `To ${to}`
  const part = (from: Channel) =>
    share(from === to ? 100 : 0, {
      title: `${capital(to)} from ${from}`,
      description: `How much of the incoming ${from} goes to ${to}.`,
      group,
    })
  return {
    [`${to}FromRed`]: part('red'),
    [`${to}FromGreen`]: part('green'),
    [`${to}FromBlue`]: part('blue'),
    [`${to}Offset`]: number(-50, 50, 0, {
      title: `${capital(to)}, offset`,
      description: `Added to ${to}, in per cent of white.`,
      group,
      unit: '%',
      step: 1,
      control: 'drawn',
    }),
  } as unknown as Record<`${C}From${'Red' | 'Green' | 'Blue'}` | `${C}Offset`, ReturnType<typeof number>>
}

const MixerSettings = Type.Object(
  {
    output: choice(['colour', 'mono'], ['Three channels', 'One, black and white'], 'colour', {
      title: 'Gives',
      description: 'Three channels, each mixed from three, or one mix for all.',
      group: 'Mix',
      first: true,
    }),
    ...rowFields('red'),
    ...rowFields('green'),
    ...rowFields('blue'),
    monoRed: share(30, {
      title: 'Grey from red',
      description: 'How much of red the black-and-white picture takes.',
      group: 'Grey',
    }),
    monoGreen: share(59, { title: 'Grey from green', description: 'How much of green it takes.', group: 'Grey' }),
    monoBlue: share(11, { title: 'Grey from blue', description: 'How much of blue it takes.', group: 'Grey' }),
    holdLight: toggle(false, {
      title: 'Hold light',
      description: 'Each pixel keeps its luma, whatever the mix.',
      group: 'Mix',
      first: true,
    }),
    holdNeutrals: toggle(true, {
      title: 'Hold neutrals',
      description: 'Greys stay as they are: what the shares of a channel add up to beyond 100 % is taken from its own.',
      group: 'Mix',
      first: true,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof MixerSettings>

/** The mix as it works, shares and offsets of 1. */
function mixerMatrix(s: Settings): { matrix: Matrix3; offset: Triple } {
  if (s.output === 'mono') {
    const row = monoShares(s)
    return { matrix: [row, row, row], offset: [0, 0, 0] }
  }
  const rows = matrix(
    CHANNELS.map((to, k) => {
      const row = [s[`${to}FromRed`] / 100, s[`${to}FromGreen`] / 100, s[`${to}FromBlue`] / 100]
      if (s.holdNeutrals) row[k]! += 1 - (row[0]! + row[1]! + row[2]!)
      return row
    }),
  )
  const offset = triple(CHANNELS.map((to) => (s.holdNeutrals ? 0 : s[`${to}Offset`] / 100)))
  if (!s.holdLight) return { matrix: rows, offset }
  // The luma that the mix would gain is taken from all channels alike.
  const luma = (column: readonly number[]): number => column.reduce((sum, v, k) => sum + LUMA_709[k]! * v, 0)
  const gained = [0, 1, 2].map((j) => luma(rows.map((row) => row[j]!)) - LUMA_709[j]!)
  const added = luma(offset)
  const held = matrix(rows.map((row) => row.map((v, j) => v - gained[j]!)))
  return { matrix: held, offset: triple(offset.map((v) => v - added)) }
}

/** Shares of the black-and-white mix; with neutrals held they are scaled to add up to 1, where they can be. */
export function monoShares(s: Pick<Settings, 'monoRed' | 'monoGreen' | 'monoBlue' | 'holdNeutrals'>): Triple {
  const sum = s.monoRed + s.monoGreen + s.monoBlue
  const unit = s.holdNeutrals && sum > 10 ? sum : 100
  return [s.monoRed / unit, s.monoGreen / unit, s.monoBlue / unit]
}

const stages = (s: Settings): PointStage[] => {
  const { matrix, offset } = mixerMatrix(s)
  return [mix(matrix, offset)]
}

function idle(s: Settings): string | null {
  const { matrix, offset } = mixerMatrix(s)
  const same = matrix.every((row, i) => row.every((v, j) => Math.abs(v - (i === j ? 1 : 0)) < 1e-9))
  return same && offset.every((v) => v === 0) ? 'every channel is taken from itself alone' : null
}

/** Channels mixed from channels. */
export const mixer = defineKind({
  id: 'mixer',
  label: 'Channel mixer',
  short: 'Mixer',
  family: { name: COLOUR, emblem: [stroke('M3 3l10 10'), stroke('M3 13 13 3'), stroke('M3 8h10')] },
  stretch: 'finish',
  summary: 'Each channel from any shares of all three, negative ones too; or one mix for black and white.',
  notes: {
    recipe: 'sepia-by-mixer',
    about: 'A matrix of channels.',
    model:
      'Code values times a 3x3 matrix, plus offsets. Holding neutrals adds what a row lacks to 100 % to its own channel; holding light takes the luma (BT.709) that the mix gains from all channels alike. A black-and-white mix whose shares add up to 100 % keeps the brightness of greys (common practice).',
  },
  schema: MixerSettings,
  takes: 'line',
  sample: { redFromRed: 120, redFromBlue: -20, blueFromGreen: 40, blueFromBlue: 60 },
  stages,
  idle,
  views: (s) => {
    const { matrix } = mixerMatrix(s)
    const rows =
      s.output === 'mono'
        ? [{ label: 'grey', mix: matrix[0] }]
        : CHANNELS.map((label, k) => ({ label, mix: matrix[k as 0 | 1 | 2] }))
    const sum = matrix[0].reduce((a, b) => a + b, 0)
    const told = s.output === 'mono' ? `; the sum is ${(100 * sum).toFixed(0)} %` : ''
    return [{ view: 'mixes', title: `What each channel takes${told}`, rows }]
  },
})
