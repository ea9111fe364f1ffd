/** Rises smoothly from 0 to 1 (the cubic 3t² - 2t³). */
export const smooth = (t: number): number => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t))
