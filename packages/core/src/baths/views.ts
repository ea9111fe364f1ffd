/** Drawings that explain a bath: the page draws them, the sheet prints them, the numbers come from the film model. */
export type View = CurvesView | MixesView | ToningView | PaletteView | SwatchesView

export interface CurvesView {
  readonly view: 'curves'
  readonly title: string
  readonly xTitle: string
  readonly yTitle: string
  readonly lines: readonly Line[]
  /** Points that can be dragged, each tied to one or two settings. */
  readonly handles?: readonly Handle[]
  /** Numbered points that only show a place. */
  readonly marks?: readonly { readonly label: string; readonly x: number; readonly y: number }[]
}

interface Line {
  readonly label: string
  readonly points: readonly (readonly [x: number, y: number])[]
  /** How the line is told apart: its weight and dashes, and a hue only where the line stands for a dye or record. */
  readonly style:
    'plain' | 'faint' | 'dashed' | 'accent' | 'cyan' | 'magenta' | 'yellow' | 'red' | 'green' | 'blue' | 'warm'
}

export interface Handle {
  readonly label: string
  readonly x: number
  readonly y: number
  /** Setting that moves with x (change of the setting per unit of x), and with y. */
  readonly onX?: { readonly setting: string; readonly perUnit: number }
  readonly onY?: { readonly setting: string; readonly perUnit: number }
}

/** Each record as a mix of red, green and blue light that adds up to 1. */
export interface MixesView {
  readonly view: 'mixes'
  readonly title: string
  readonly rows: readonly { readonly label: string; readonly mix: readonly [number, number, number] }[]
}

/** Which share of each image density went to which compound, toner by toner. */
export interface ToningView {
  readonly view: 'toning'
  readonly title: string
  readonly densities: readonly number[]
  readonly bands: readonly { readonly label: string; readonly style: string; readonly shares: readonly number[] }[]
}

/** The colours that a process can hold, as a grid of display colours and the outline in a*, b*. */
export interface PaletteView {
  readonly view: 'palette'
  readonly title: string
  readonly swatches: readonly (readonly (readonly [number, number, number])[])[]
  readonly ab: readonly (readonly [number, number])[]
}

/** Small pictures beside each other, pixel for pixel. */
export interface SwatchesView {
  readonly view: 'swatches'
  readonly title: string
  readonly width: number
  readonly height: number
  /** Code values 0..1 of red, green and blue, row by row. */
  readonly pictures: readonly { readonly label: string; readonly codes: Float32Array }[]
}

/** Samples y = f(x) at `count` places from `from` to `to`. */
export function sampleLine(
  f: (x: number) => number,
  from: number,
  to: number,
  count = 61,
): (readonly [number, number])[] {
  return Array.from({ length: count }, (_, i) => {
    const x = from + ((to - from) * i) / (count - 1)
    return [x, f(x)] as const
  })
}
