import { blurRecords } from '../cpu/blur'
import { kernelMemory } from '../cpu/memory'
import { runSteps } from '../cpu/program'
import { Recent } from '../numbers/recent'
import { LUMA_709 } from '../colour/spaces'
import { mix, type PointStage } from '../stages/stage'
import { growPlane } from './grow'
import type { Join, Mask, MaskPart } from './schema'
import { LAB, NONE, colourSelection, toneSelection } from './selection'
import { clipPlane, rangeShare, takeSpecks } from './clean'
import { guidePlane } from './guided'
import { fillBox, fillGradient, fillOutline, type Plane } from './shapes'

/**
 * Makes a mask for a size of picture: one number a pixel, 0..1; good until the next mask is made.
 * @param reading address of the picture that is read (RGBA code values), or null where only shapes are used
 */
export type MaskWork = (reading: number | null, width: number, height: number) => Plane

type PartWork = MaskWork

const selects = ({ type }: MaskPart): boolean => type === 'tone' || type === 'colour' || type === 'range'

/** The picture that a mask reads, or null where only shapes are used. */
export const maskReads = (mask: Mask): 'footage' | 'line' | null =>
  mask.hold > 0 || mask.parts.some(selects) ? mask.reads : null

/** Masks last seen are kept: the shapes of one that did not change are not drawn again. */
const known = new Recent<MaskWork>(8)
export const maskWork = (mask: Mask): MaskWork => known.get(JSON.stringify(mask), () => makeMask(mask))

function makeMask(mask: Mask): MaskWork {
  const parts = mask.parts.map((part) => ({ part, work: selects(part) ? selection(part) : drawnOnce(shape(part)) }))
  const whole: MaskWork = (reading, width, height) => {
    // What is first taken away or cut out is taken from the whole picture.
    const plane = new Float32Array(width * height).fill(mask.parts[0]!.join === 'add' ? 0 : 1)
    for (const { part, work } of parts) joinPlane(plane, work(reading, width, height), part.join, part.invert)
    if (mask.black > 0 || mask.white < 100) clipPlane(plane, mask.black, mask.white)
    if (mask.specks > 0) takeSpecks(plane, width, height, (mask.specks * width) / 2000)
    if (mask.hold > 0)
      guidePlane(plane, brightness(reading!, width * height), width, height, (mask.hold * width) / 1000)
    if (mask.grow !== 0) growPlane(plane, width, height, (mask.grow * width) / 100)
    if (mask.soften > 0) blurPlane(plane, mask.soften, width, height)
    if (mask.invert) for (let i = 0; i < plane.length; i++) plane[i] = 1 - plane[i]!
    return plane
  }
  return maskReads(mask) === null ? drawnOnce(whole) : whole
}

/** Union, difference and intersection of fuzzy sets: greatest, least, one minus (L. A. Zadeh, 1965). */
function joinPlane(plane: Plane, part: Plane, join: Join, invert: boolean): void {
  for (let i = 0; i < plane.length; i++) {
    const before = plane[i]!
    const own = invert ? 1 - part[i]! : part[i]!
    plane[i] =
      join === 'add' ? Math.max(before, own) : join === 'subtract' ? Math.min(before, 1 - own) : Math.min(before, own)
  }
}

/** Remembers the last plane: what only depends on the size is drawn once for all frames. */
function drawnOnce(work: PartWork): PartWork {
  let drawn: { readonly width: number; readonly height: number; readonly plane: Plane } | undefined
  return (reading, width, height) => {
    if (drawn?.width !== width || drawn.height !== height)
      drawn = { width, height, plane: work(reading, width, height) }
    return drawn.plane
  }
}

/** A part that is drawn. */
function shape(part: MaskPart): PartWork {
  return (_, width, height) => {
    const plane = new Float32Array(width * height)
    const size = { width, height, warp: part.warp }
    if (part.type === 'ellipse' || part.type === 'rectangle') fillBox(part.type, part.settings, plane, size)
    else if (part.type === 'gradient') fillGradient(part.settings, plane, size)
    else if (part.type === 'outline') {
      fillOutline(part.settings, plane, size)
      // A smooth fall of width w is close to a Gaussian edge with a standard deviation of w / 4.
      if (part.settings.edge > 0) blurPlane(plane, (part.settings.edge * 10) / 4, width, height)
    }
    return plane
  }
}

/** Code values' luma of a picture. */
const brightness = (reading: number, n: number): Plane => firstChannel([mix([LUMA_709, NONE, NONE])], reading, n)

/** A part that selects by the picture. */
function selection(part: MaskPart): PartWork {
  if (part.type !== 'range') return staged(part)
  const share = rangeShare(part.settings)
  return (reading, width, height) => {
    const n = width * height
    const memory = kernelMemory()
    return memory.borrow(16 * (n + 16), (address) => {
      const steps = LAB.map((stage) => ({ do: 'stage', stage }) as const)
      const picture = { address, register: 'own' } as const
      runSteps([{ ...picture, do: 'load', address: reading! }, ...steps, { ...picture, do: 'store' }], n)
      const lab = memory.floats(address, 4 * n)
      const plane = new Float32Array(n)
      for (let i = 0; i < n; i++) plane[i] = share(lab[4 * i]!, lab[4 * i + 1]!, lab[4 * i + 2]!)
      return plane
    })
  }
}

/** Its stages end in the share in the first channel. */
function staged(part: MaskPart): PartWork {
  const stages: readonly PointStage[] =
    part.type === 'tone' ? toneSelection(part.settings) : part.type === 'colour' ? colourSelection(part.settings) : []
  const without = part.type === 'colour' ? part.settings.without : []
  if (part.type !== 'colour' || without.length === 0)
    return (reading, width, height) => firstChannel(stages, reading!, width * height)
  const away = colourSelection(part.settings, without)
  return (reading, width, height) => {
    const n = width * height
    const plane = firstChannel(stages, reading!, n)
    joinPlane(plane, firstChannel(away, reading!, n), 'subtract', false)
    return plane
  }
}

/** What stages leave of a picture in the first channel. */
function firstChannel(stages: readonly PointStage[], reading: number, n: number): Plane {
  const memory = kernelMemory()
  return memory.borrow(4 * (n + 16), (address) => {
    runSteps(
      [
        { do: 'load', address: reading, register: 'own' },
        ...stages.map((stage) => ({ do: 'stage', stage }) as const),
        { do: 'storePlane', address },
      ],
      n,
    )
    return memory.floats(address, n).slice()
  })
}

function blurPlane(plane: Plane, sigma: number, width: number, height: number): void {
  const memory = kernelMemory()
  memory.borrow(16 * (plane.length + 4), (at) => {
    const before = memory.floats(at, 4 * plane.length)
    for (let i = 0; i < plane.length; i++) before[4 * i] = plane[i]!
    blurRecords([sigma, 0, 0], at, width, height)
    const blurred = memory.floats(at, 4 * plane.length)
    for (let i = 0; i < plane.length; i++) plane[i] = Math.min(1, Math.max(0, blurred[4 * i]!))
  })
}
