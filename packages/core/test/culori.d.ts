declare module 'culori' {
  export interface Color {
    mode: string
    [channel: string]: unknown
  }
  export function converter(
    mode: string,
  ): (color: Color) => { mode: string; l: number; a: number; b: number } | undefined
  export function differenceCiede2000(): (a: Color, b: Color) => number
}
