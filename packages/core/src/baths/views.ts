/** Drawings that explain a bath: the page draws them, the sheet prints them, the numbers come from the film model. */
export type View = CurvesView | MixesView | ToningView | PaletteView | SwatchesView | WedgeView

/** Those that only show; the wedge is itself how its settings are made. */
export type Drawing = Exclude<View, WedgeView>

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
    | 'plain'
    | 'faint'
    | 'dashed'
    | 'accent'
    | 'cyan'
    | 'magenta'
    | 'yellow'
    | 'red'
    | 'green'
    | 'blue'
    | 'warm'
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

/** The grey wedge and what a bath makes of it, with the colour that each tone takes as hills over it. Places go evenly from black to white. */
export interface WedgeView {
  readonly view: 'wedge'
  readonly title: string
  /** Code values 0..1 that a grey of each place becomes. */
  readonly becomes: readonly (readonly [number, number, number])[]
  /** How far from grey that is: 1 for a colour of 100 %; where colours meet it may be more, or less than either. */
  readonly amounts: readonly number[]
  /** From the shadows on, as they lie along the wedge. */
  readonly hills: readonly Hill[]
  readonly limits: readonly WedgeLimit[]
}

/** A colour that a range of tones takes. */
export interface Hill {
  readonly label: string
  /** The settings that hold its hue in degrees, and its amount in per cent. */
  readonly hue: string
  readonly amount: string
  /** How far each place goes towards the colour at 100 %, 0..1. */
  readonly shape: readonly number[]
  /** Whether it lies over all tones, the other hills among them. */
  readonly whole?: true
}

/** Where one range runs into the next, or what lies between two of them. */
export interface WedgeLimit {
  readonly label: string
  /** What is widened: said of the setting that `width` holds. */
  readonly widthLabel: string
  /** From black, 0, to white, 1. */
  readonly at: number
  /** How far it reaches, as a share of the wedge. */
  readonly wide: number
  /** Whether what lies within is a range of its own that takes nothing. */
  readonly bare?: true
  /** Per unit of place and of width: the change of the setting. `within`: bounds beside the setting's own. */
  readonly place: { readonly setting: string; readonly perUnit: number; readonly within?: readonly [number, number] }
  readonly width: { readonly setting: string; readonly perUnit: number }
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
