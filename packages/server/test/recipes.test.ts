import { packLut } from '@fogbath/core/baths'
import { readCube } from '@fogbath/core/formats'
import { expect, it } from 'vitest'
import { parseRecipe } from '../src/validate'

const recipe = (kind: string, settings: object): string => JSON.stringify({ baths: [{ kind, settings }] })
const crossed = [
  [0, 0],
  [0.6, 0.5],
  [0.4, 0.6],
  [1, 1],
]
const cube = `LUT_3D_SIZE 2\n${'0 0 0\n'.repeat(8)}`
const lut = packLut(readCube(cube), 'black.cube')

it.each<[string, string, RegExp]>([
  [
    'a colour',
    recipe('veil', { colour: 'orange' }),
    /settings\/colour is "orange"; it must be a colour of the form #rrggbb/,
  ],
  ['a hue', recipe('ranges', { darksHue: 900 }), /settings\/darksHue is 900; it must be <= 360/],
  [
    'a point',
    recipe('curves', {
      red: [
        [0, 0],
        [2, 1],
      ],
    }),
    /settings\/red\/1\/0 is 2; it must be <= 1/,
  ],
  ['a point of three numbers', recipe('curves', { red: [[0, 0, 1]] }), /settings\/red\/0/],
  ['points that cross', recipe('curves', { blue: crossed }), /point 3 of 'blue' stands at 0.4/],
  [
    'no point at all',
    recipe('hue-response', { turns: [] }),
    /settings\/turns is \[\]; it must NOT have fewer than 1 items/,
  ],
  ['half a LUT', recipe('input-lut', { lut: { title: 'x' } }), /settings\/lut lacks 'file'/],
  ['a LUT that lost its nodes', recipe('input-lut', { lut: { ...lut, nodes: 'AAAA' } }), /the LUT holds 1.5 numbers/],
  [
    'a bath of a strand',
    recipe('strand', { baths: [{ kind: 'contrast', settings: { amount: 300 } }] }),
    /settings\/baths\/0\/settings\/amount is 300/,
  ],
  [
    'a strand in a strand',
    recipe('strand', { baths: [{ kind: 'strand' }] }),
    /settings\/baths\/0\/kind is "strand"; it must be one of/,
  ],
  [
    'light prepared in a strand',
    recipe('strand', { baths: [{ kind: 'balance' }] }),
    /settings\/baths\/0\/kind is "balance"/,
  ],
  ['a setting that is not known', recipe('mixer', { sepia: 1 }), /settings has 'sepia', which is not known there/],
])('a recipe with a fault in %s is refused, naming place, value and rule', (_, text, message) => {
  expect(() => parseRecipe(text, 'look.json')).toThrow(message)
})

it('a whole LUT, a strand and curves come in as they are', () => {
  const settings = {
    baths: [
      {
        kind: 'curves',
        settings: {
          master: [
            [0, 0.1],
            [1, 0.9],
          ],
        },
      },
    ],
  }
  const text = JSON.stringify({
    baths: [
      { kind: 'input-lut', settings: { lut } },
      { kind: 'strand', settings },
    ],
  })
  const [first, second] = parseRecipe(text, 'look.json').baths
  expect(first!.settings['lut']).toEqual(lut)
  expect((second!.settings['baths'] as { settings: object }[])[0]!.settings).toMatchObject({
    master: [
      [0, 0.1],
      [1, 0.9],
    ],
  })
})
