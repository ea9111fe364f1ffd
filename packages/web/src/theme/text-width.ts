import { FONT } from './theme'

/** Size of the interface's text, px. */
export const TEXT = 14

let pen: CanvasRenderingContext2D | null | undefined

/** How wide a text stands in the interface's own type, px; about so where nothing can be drawn. */
export function widthOf(text: string, size: number): number {
  pen ??= document.createElement('canvas').getContext('2d')
  if (!pen) return text.length * size * 0.5
  pen.font = `${size}px ${FONT}`
  return pen.measureText(text).width
}
