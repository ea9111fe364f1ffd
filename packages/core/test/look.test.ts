import { describe, expect, it } from 'vitest'
import { bt709ToLab, ciede2000, displayLight, type Triple, three } from '../src/colour'
import { readEncodings } from '../src/encodings'
import { readDecision } from '../src/formats'
import { NOTHING_AROUND, newBath, plainLine, type Recipe } from '../src/line'
import { makeLook, notHeld, withoutNotHeld, type LookError, type LookOptions } from '../src/look'
import { seededRandom } from '../src/numbers'
import { SHIPPED_RECIPES } from '../src/recipes'

const shipped = (id: string): Recipe => SHIPPED_RECIPES.find((r) => r.id === id)!
const line = (...baths: Recipe['baths']): Recipe => ({ ...shipped('plain'), id: 'made', name: 'Made', baths })
const decision = newBath('cdl', 'd', { on: 'video', slopeRed: 1.2, offsetGreen: -0.02, powerBlue: 1.1 })

describe('what a file of a look cannot hold', () => {
  const masked = { ...newBath('contrast', 'sky', {}), name: 'Sky', mask: { shapes: [] } as never }
  const glow = newBath('glow', 'g', {})
  const grainy = newBath('colour-print', 'p', { grain: 40 })

  it('is named: masks, neighbours, and of a process only what spreads in it', () => {
    const recipe = line(grainy, masked, glow, { ...newBath('vignette', 'v', {}), in: false })
    expect(notHeld(recipe)).toEqual([
      { bath: 'p', name: 'Colour print', why: 'places', whole: false },
      { bath: 'sky', name: 'Sky', why: 'mask', whole: true },
      { bath: 'g', name: 'Glow', why: 'places', whole: true },
    ])
    expect(withoutNotHeld(recipe).baths.map((b) => b.id)).toEqual(['p', 'v'])
  })
  it('is an error that says so, until it is left out, and then a comment of the file', () => {
    const recipe = line(grainy, glow)
    expect(() => makeLook(recipe, { format: 'cube', size: 3 })).toThrow(/'Glow' works on neighbouring.*Leave it out/)
    const { text, missing } = makeLook(recipe, { format: 'cube', size: 3, leaveOut: true })
    expect(text).toMatch(/# Not in this file: the bath 'Glow'/)
    expect(text).toMatch(/# Not in this file: grain, spread of light and shifts of 'Colour print'/)
    expect(missing).toHaveLength(2)
  })
  it('is how settings change over the shot: they are taken as they are set', () => {
    const lane = { times: 'start', keys: [{ at: 0, value: 3, way: 'held' }] } as const
    const keyed = { ...newBath('contrast', 'c', { amount: 20 }), keys: { amount: lane } }
    const recipe = line(keyed)
    expect(notHeld(recipe)).toEqual([{ bath: 'c', name: 'Contrast', why: 'time', whole: false }])
    const { text } = makeLook(recipe, { format: 'cube', size: 3, leaveOut: true })
    expect(text).toMatch(/# Not in this file: how 'Contrast' changes over the shot/)
    const numbers = (of: string): string => of.split('\n').filter((row) => /^[-\d]/.test(row)).join('\n') // oxfmt-ignore
    const { keys: _, ...plain } = keyed
    expect(numbers(text)).toBe(numbers(makeLook(line(plain), { format: 'cube', size: 3 }).text))
    expect(notHeld({ ...line(plain), name: 'Dusk', keys: { strength: lane } })).toMatchObject([
      { name: 'Dusk', why: 'time' },
    ])
  })
  it('is found inside a second line too', () => {
    const strand = newBath('strand', 's', { baths: [newBath('contrast', 'c', {}), glow] })
    const recipe = line(grainy, strand)
    expect(notHeld(recipe).map((m) => m.bath)).toEqual(['p', 'g'])
    const [, kept] = withoutNotHeld(recipe).baths
    expect((kept!.settings['baths'] as Recipe['baths']).map((b) => b.id)).toEqual(['c'])
  })
})

describe('the numbers of a decision list', () => {
  it('are written for a line that is one, and read again', () => {
    const told = { slope: [1.2, 1, 1], offset: [0, -0.02, 0], power: [1, 1, 1.1], saturation: 1 }
    for (const format of ['cc', 'cdl'] as const) {
      const { text, errors } = makeLook(line(decision), { format })
      expect(readDecision(text)).toEqual(told)
      expect(text).toMatch(/video code values of gamma 2\.4/)
      // They act on scene light here, brought to gamma 2.4, not on what the footage shows.
      expect(errors!.wide.mean).toBeGreaterThan(1)
      expect(text).toContain(`mean ${errors!.wide.mean.toFixed(2)}, 99th percentile`)
    }
  })
  it('say how far they are from the bath, as reading them by hand finds it', () => {
    const codes: Triple = [0.5, 0.4, 0.3]
    const recipe = line(decision)
    const { errors } = makeLook(recipe, { format: 'cdl', frame: [codes] })
    const by = (c: readonly number[]) => bt709ToLab(c.map((v) => Math.max(0, v) ** 2.4) as unknown as Triple)
    const out = three()
    plainLine(recipe, NOTHING_AROUND, 'display')(...codes, out)
    // ASC CDL 1.2: (in * slope + offset) ^ power.
    const file = [0.5 * 1.2, 0.4 - 0.02, 0.3 ** 1.1]
    expect(errors!.frame!.mean).toBeCloseTo(ciede2000(by(file), by([...out])), 1)
    expect(makeLook(recipe, { format: 'cc', takes: 'acescct' }).errors).toBeNull()
  })
  it.each([
    [line(), /no such bath at work/],
    [line(decision, newBath('contrast', 'c', {})), /'Contrast' does more/],
    [line(decision, { ...decision, id: 'e' }), /2 of them/],
    [{ ...line(decision), strength: 50 }, /less than full strength/],
  ])('are refused for any other line', (recipe, why) => {
    expect(() => makeLook(recipe, { format: 'cdl' })).toThrow(why)
  })
})

describe('a .cube of curves', () => {
  const options: LookOptions = { format: 'cube', curves: true }
  it('holds a line whose channels do not mix', () => {
    const { text, errors } = makeLook(line(newBath('contrast', 'c', { amount: 40 })), options)
    const rows = text.split('\n').filter((row) => /^[\d.-]+ [\d.-]+ [\d.-]+$/.test(row))
    expect(rows).toHaveLength(4096)
    expect(text).toContain('LUT_1D_SIZE 4096')
    expect(errors!.wide.worst).toBeLessThan(0.01)
    // A quarter of the way, by the plain line itself.
    const out = three()
    plainLine(line(newBath('contrast', 'c', { amount: 40 })), undefined, 'display')(1024 / 4095, 0.5, 0.5, out)
    expect(Number(rows[1024]!.split(' ')[0])).toBeCloseTo(out[0]!, 5)
  })
  it('is refused where they do', () => {
    expect(() => makeLook(shipped('plain'), options)).toThrow(/mixes channels; write a table of colours \(3D\)/)
  })
})

describe('a shaper', () => {
  const shaped = (options: Partial<LookOptions>) =>
    makeLook(shipped('sepia'), { format: 'cube', shaper: true, ...options })
  const rowsOf = (text: string) =>
    text.split('\n').flatMap((row) => (/^[\d.-]+ [\d.-]+ [\d.-]+$/.test(row) ? [row.split(' ').map(Number)] : []))
  it('is a .cube of one rising curve from black to white, steepest at its ends; the table says that it comes first', () => {
    const { text, shaper } = shaped({ size: 5 })
    expect(text).toMatch(/# Its input goes through its shaper first/)
    expect(text).toContain('TITLE "Sepia, behind its shaper"')
    expect(shaper).toContain('LUT_1D_SIZE 4096')
    const curve = rowsOf(shaper!).map(([r]) => r!)
    expect([curve[0], curve[4095]]).toEqual([0, 1])
    const slopes = [0, 2000, 4094].map((i) => curve[i + 1]! - curve[i]!) as [number, number, number]
    expect(Math.min(...curve.slice(1).map((v, i) => v - curve[i]!))).toBeGreaterThan(0)
    expect(slopes[0]).toBeGreaterThan(2 * slopes[1])
    expect(slopes[2]).toBeGreaterThan(4 * slopes[1])
  })
  it('leads to the nodes of the table: read by hand, grey by grey', () => {
    const { text, shaper } = shaped({})
    const [curve, nodes] = [rowsOf(shaper!), rowsOf(text)]
    const out = three()
    for (const i of [0, 4, 8, 16, 24, 30, 32]) {
      // The first code value whose place is that of the node.
      const code = curve.findIndex(([r]) => r! >= i / 32) / 4095
      plainLine(shipped('sepia'), undefined, 'display')(code, code, code, out)
      // Nodes are fitted, so they lie a little off the line.
      nodes[i * (1 + 33 + 33 ** 2)]!.forEach((v, k) => expect(v, `node ${i}`).toBeCloseTo(out[k]!, 2))
    }
  })
  it('brings the table nearer', () => {
    const [near, far] = [shaped({}), shaped({ shaper: false })].map(({ errors }) => errors!.wide) as [
      LookError,
      LookError,
    ]
    expect(near.mean).toBeLessThan(0.9 * far.mean)
    expect(near.most).toBeLessThan(0.6 * far.most)
  })
  it.each<[Partial<LookOptions>, RegExp]>([
    [{ format: 'clf' }, /belongs to a .cube table/],
    [{ curves: true }, /belongs to a .cube table/],
    [{ takes: 'acescct' }, /'ACEScct log' is spread evenly already/],
  ])('is refused where there is nothing to spread', (options, why) => {
    expect(() => shaped(options)).toThrow(why)
  })
})

describe('the measured error', () => {
  it.each(['three-strip', 'two-strip'])('is that of the file: %s is worst in a coarse table, best as a chain', (id) => {
    const worst = (options: LookOptions) => makeLook(shipped(id), { ...options, leaveOut: true }).errors!.wide
    const [coarse, fine, chain] = [{ size: 9 }, { size: 33 }]
      .map((o) => worst({ format: 'cube', ...o }))
      .concat(worst({ format: 'clf' })) as [
      ReturnType<typeof worst>,
      ReturnType<typeof worst>,
      ReturnType<typeof worst>,
    ]
    expect(coarse.mean).toBeGreaterThan(3 * fine.mean)
    expect(chain.mean).toBeLessThan(fine.mean * 0.85)
    // In dE2000, mean and 99th percentile over colours of all kinds.
    expect(chain.mean).toBeLessThan(0.025)
    expect(chain.most).toBeLessThan(0.2)
  })
  it('comes to what reading the .cube by hand comes to', () => {
    const frame: Triple[] = [
      [0.25, 0.5, 0.75],
      [0.5, 0.5, 0.5],
      [0.75, 0.25, 1],
    ]
    const recipe = shipped('two-strip')
    const { text, errors } = makeLook(recipe, { format: 'cube', size: 5, frame })
    const nodes = text.split('\n').filter((row) => /^[\d.-]+ [\d.-]+ [\d.-]+$/.test(row))
    const out = three()
    const lab = (codes: ArrayLike<number>) =>
      bt709ToLab([displayLight(codes[0]!), displayLight(codes[1]!), displayLight(codes[2]!)])
    // All of these lie on nodes of a table of five.
    const off = frame.map((c) => {
      const [r, g, b] = c.map((v) => 4 * v)
      const node = nodes[r! + 5 * (g! + 5 * b!)]!.split(' ').map(Number)
      plainLine(recipe, undefined, 'display')(...c, out)
      return ciede2000(lab(node), lab(out))
    })
    expect(errors!.frame!.worst).toBeCloseTo(Math.max(...off), 2)
    expect(errors!.frame!.mean).toBeCloseTo(off.reduce((a, b) => a + b) / 3, 2)
  })
  it('says of a .cube that its numbers lead beyond black, where they do', () => {
    const numbers = (text: string) => text.split('\n').filter((row) => /^-?\d/.test(row))
    for (const id of ['bleach-bypass', 'sepia']) {
      const { text } = makeLook(shipped(id), { format: 'cube', size: 17, leaveOut: true })
      const beyond = numbers(text).some((row) => row.split(' ').some((v) => Number(v) < 0 || Number(v) > 1))
      expect(/^# Numbers below 0 and above 1 are meant so/m.test(text), id).toBe(beyond)
      if (id === 'bleach-bypass') expect(beyond).toBe(true)
    }
  })
  it('is asked of encodings that a .cube cannot take only with a sentence', () => {
    expect(() => makeLook(shipped('plain'), { format: 'cube', takes: 'linear' })).toThrow(
      /take 'acescct', or write a \.clf/,
    )
    expect(() => makeLook(shipped('plain'), { format: 'clf', takes: 'nonsense' })).toThrow(/is not an encoding/)
  })
})

describe('a look in an encoding of one’s own', () => {
  // A table of colours has no way back; this one says the same numbers as it is given.
  const rows = [0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${r} ${g} ${b}`)))
  const [oneWay] = readEncodings('same.cube', ['LUT_3D_SIZE 2', ...rows].join('\n'), () => () => null).encodings
  it('takes it though nothing says which number some light has', () => {
    const own = makeLook(shipped('two-strip'), { format: 'clf', takes: oneWay! }).errors!.wide
    const known = makeLook(shipped('two-strip'), { format: 'clf', takes: 'bt1886' }).errors!.wide
    expect(own.mean).toBeCloseTo(known.mean, 2)
  })
  it('is not given in it, and says why', () => {
    expect(() => makeLook(shipped('plain'), { format: 'clf', gives: oneWay! })).toThrow(/can be read and not written/)
  })
})

it.each(['multiply', 'color'] as const)('a look through %s and strengths stays near the line', (lay) => {
  const random = seededRandom(3)
  const bath = { ...newBath('split-by-hand', 'x', {}), lay, strength: 30 + 60 * random() }
  const recipe = { ...line(newBath('colour-print', 'p', {}), bath), strength: 80 }
  const { errors } = makeLook(recipe, { format: 'clf' })
  expect(errors!.wide.mean).toBeLessThan(0.1)
})
