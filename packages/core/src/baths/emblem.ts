/** One stroke or filled shape of an emblem, in a square of 16 by 16. */
export interface Mark {
  /** Path data as SVG 1.1 has it. */
  readonly path: string
  /** Width of the line; 0 for a filled shape. */
  readonly width: number
}

/** A group of kinds in the palette, told apart by a small drawing. */
export interface Family {
  readonly name: string
  readonly emblem: readonly Mark[]
}

const WIDTH = 1.2
const circle = (x: number, y: number, r: number): string =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`

export const stroke = (path: string, width = WIDTH): Mark => ({ path, width })
export const solid = (path: string): Mark => ({ path, width: 0 })
export const ring = (x: number, y: number, r: number): Mark => stroke(circle(x, y, r))
export const disc = (x: number, y: number, r: number): Mark => solid(circle(x, y, r))
