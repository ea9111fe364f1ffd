/** The circle of hues laid out from left to right, as CSS; the hues are those of the hexagon, as core has them. */
export const hueGradient = (saturation: number, lightness: number): string =>
  `linear-gradient(90deg, ${[0, 60, 120, 180, 240, 300, 360].map((h) => `hsl(${h} ${saturation}% ${lightness}%)`).join(', ')})`
