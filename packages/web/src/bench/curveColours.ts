/** Hues of lines that stand for a dye or a record. */
export const CURVE_COLOURS: Readonly<Record<string, string>> = {
  cyan: '#3fb3c4',
  magenta: '#d062a8',
  yellow: '#cfae2e',
  red: '#e0655a',
  green: '#5fae6b',
  blue: '#6f92e8',
  warm: '#c98a52',
}
