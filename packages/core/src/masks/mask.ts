import { DISPLAY } from '../kernels/domain'
import { blurRecords } from '../kernels/blur'
import { makeLut } from '../kernels/lut3d'
import { remembered } from '../kernels/remembered'
import type { Workbench } from '../kernels/workbench'
import { growPlane } from './grow'
import type { Join, Mask, MaskPart } from './schema'
import { colourSelection, toneSelection, type Selection } from './selection'
import { fillBox, fillGradient, fillOutline, type Plane } from './shapes'

/** A mask made ready to run over pictures. */
export interface MaskWork {
  /** The picture that must be handed in, or null where only shapes are used. */
  readonly reads: 'footage' | 'line' | null
  /**
   * Fills `plane` (width · height, 0..1).
   * @param reading RGBA code values of the picture that is read; not changed
   */
  readonly run: (reading: Float32Array | null, plane: Plane, width: number, height: number, bench: Workbench) => void
}

type PartWork = MaskWork['run']

const selects = (part: MaskPart): boolean => part.type === 'tone' || part.type === 'colour'

/** Masks last seen are kept: the shapes of one that did not change are not drawn again. */
export const maskWork = remembered(8, (mask: Mask): MaskWork => {
  const parts = mask.parts.map((part) => ({ part, work: selects(part) ? partWork(part) : drawnOnce(partWork(part)) }))
  const run: PartWork = (reading, plane, width, height, bench) => {
    const n = width * height
    // What is first taken away or cut out is taken from the whole picture.
    plane.fill(mask.parts[0]!.join === 'add' ? 0 : 1, 0, n)
    const own = bench.takePlane('mask part', n)
    for (const { part, work } of parts) {
      work(reading, own, width, height, bench)
      joinPlane(plane, own, part.join, part.invert, n)
    }
    if (mask.grow !== 0) growPlane(plane, width, height, (mask.grow * width) / 100)
    if (mask.soften > 0) blurPlane(plane, mask.soften, width, height, bench)
    if (mask.invert) for (let i = 0; i < n; i++) plane[i] = 1 - plane[i]!
  }
  return mask.parts.some(selects) ? { reads: mask.reads, run } : { reads: null, run: drawnOnce(run) }
})

/** Union, difference and intersection of fuzzy sets: greatest, least, one minus (L. A. Zadeh, 1965). */
function joinPlane(plane: Plane, part: Plane, join: Join, invert: boolean, n: number): void {
  for (let i = 0; i < n; i++) {
    const before = plane[i]!
    const own = invert ? 1 - part[i]! : part[i]!
    plane[i] =
      join === 'add' ? Math.max(before, own) : join === 'subtract' ? Math.min(before, 1 - own) : Math.min(before, own)
  }
}

/** Remembers the last plane: what only depends on the size is drawn once for all frames. */
function drawnOnce(work: PartWork): PartWork {
  let drawn: { readonly width: number; readonly height: number; readonly plane: Plane } | undefined
  return (reading, plane, width, height, bench) => {
    if (drawn?.width !== width || drawn.height !== height) {
      work(reading, plane, width, height, bench)
      drawn = { width, height, plane: plane.slice(0, width * height) }
    } else plane.set(drawn.plane)
  }
}

function partWork(part: MaskPart): PartWork {
  switch (part.type) {
    case 'ellipse':
    case 'rectangle':
      return (_, plane, width, height) => fillBox(part.type, part.settings, plane, width, height)
    case 'gradient':
      return (_, plane, width, height) => fillGradient(part.settings, plane, width, height)
    case 'outline':
      return (_, plane, width, height, bench) => {
        fillOutline(part.settings, plane, width, height)
        // A smooth fall of width w is close to a Gaussian edge with a standard deviation of w / 4.
        if (part.settings.edge > 0) blurPlane(plane, (part.settings.edge * 10) / 4, width, height, bench)
      }
    case 'tone':
      return selectEach(toneSelection(part.settings))
    case 'colour':
      return selectByLut(colourSelection(part.settings))
  }
}

const selectEach =
  (select: Selection): PartWork =>
  (reading, plane, width, height) => {
    for (let i = 0, at = 0; i < width * height; i++, at += 4)
      plane[i] = select(reading![at]!, reading![at + 1]!, reading![at + 2]!)
  }

/** Nodes a side: a selection bends more softly than a film, and only its edges are anything but 0 or 1. */
const SELECTION_SIZE = 65

/** Cube roots for every pixel are slow; the lazily filled LUT works them out once for each colour that is there. */
function selectByLut(select: Selection): PartWork {
  const lut = makeLut((r, g, b, out) => void out.fill(select(r, g, b)), DISPLAY, SELECTION_SIZE)
  return (reading, plane, width, height, bench) => {
    const n = width * height
    const found = bench.take('mask colour', n)
    lut.apply(reading!, found, n)
    for (let i = 0; i < n; i++) plane[i] = found[4 * i]!
  }
}

function blurPlane(plane: Plane, sigma: number, width: number, height: number, bench: Workbench): void {
  const n = width * height
  const picture = bench.take('mask blur', n)
  for (let i = 0; i < n; i++) picture[4 * i] = plane[i]!
  blurRecords([sigma, 0, 0], picture, width, height)
  for (let i = 0; i < n; i++) plane[i] = Math.min(1, Math.max(0, picture[4 * i]!))
}
