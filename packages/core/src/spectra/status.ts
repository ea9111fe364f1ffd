import { SAMPLES, spectrumFrom, type Spectrum } from './grid'

/** Spectral products, as logarithms with a peak of 5, every 10 nm from a wavelength on (ISO 5-3, from memory). */
const product = (from: number, ...logs: readonly number[]): Spectrum =>
  spectrumFrom((nm) => {
    const log = logs[(nm - from) / 10]
    return log === undefined ? 0 : 10 ** (log - 5)
  })

/**
 * What a densitometer answers to in red, green and blue, its lamp included: Status A for prints and positives, Status M for
 * negatives.
 */
export const STATUS: Readonly<Record<'A' | 'M', readonly [Spectrum, Spectrum, Spectrum]>> = {
  A: [
    product(600, 2.568, 4.638, 5, 4.871, 4.604, 4.286, 3.9, 3.551, 3.165, 2.776, 2.383, 1.97, 1.551),
    product(500, 1.65, 3.822, 4.782, 5, 4.906, 4.644, 4.221, 3.609, 2.766, 1.579),
    product(420, 3.602, 4.819, 5, 4.912, 4.62, 4.04, 2.989, 1.566, 0.165),
  ],
  M: [
    product(620, 2.109, 4.479, 5, 4.899, 4.578, 4.252, 3.875, 3.491, 3.099, 2.687, 2.269),
    product(470, 1.152, 2.207, 3.156, 3.804, 4.272, 4.626, 4.872, 5, 4.995, 4.818, 4.458, 3.915, 3.172, 2.239, 1.07),
    product(410, 2.103, 4.111, 4.632, 4.871, 5, 4.955, 4.743, 4.343, 3.743, 2.99, 1.852),
  ],
}

/** Density of a spectrum of densities as a densitometer reads it: mean of what passes, weighed by a product. */
export function readThrough(weights: Spectrum, density: Spectrum): number {
  let [lit, all] = [0, 0]
  for (let i = 0; i < SAMPLES; i++) {
    lit += weights[i]! * 10 ** -density[i]!
    all += weights[i]!
  }
  return -Math.log10(lit / all)
}
