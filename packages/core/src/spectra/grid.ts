/**
 * The wavelength grid of the whole model: 380 to 780 nm in 10 nm steps, 41 samples.
 * A {@link Spectrum} is always sampled on it, so that spectra combine index by index.
 */
const START_NM = 380
const STEP_NM = 10
export const SAMPLES = 41

/** 41 samples over 380..780 nm. The unit depends on use: reflectance, density per unit amount, relative power. */
export type Spectrum = Float64Array

/** Wavelength in nm of sample `i`. */
export const nmAt = (i: number): number => START_NM + STEP_NM * i

export function spectrumFrom(at: (nm: number) => number): Spectrum {
  return Float64Array.from({ length: SAMPLES }, (_, i) => at(nmAt(i)))
}

/**
 * A bell (Gaussian) shape of height 1.
 * @param peak centre in nm
 * @param width full width at half height in nm, > 0
 */
export function bell(peak: number, width: number): (nm: number) => number {
  return (nm) => Math.exp(-4 * Math.LN2 * ((nm - peak) / width) ** 2)
}

/** One to three bells with their heights, added up: `bells([[1, 665, 125], [0.1, 430, 90]])`. */
export function bells(parts: readonly (readonly [height: number, peak: number, width: number])[]): Spectrum {
  const shapes = parts.map(([height, peak, width]) => {
    const shape = bell(peak, width)
    return (nm: number) => height * shape(nm)
  })
  return spectrumFrom((nm) => shapes.reduce((sum, shape) => sum + shape(nm), 0))
}

/**
 * A filter that passes `from..to` nm with edges of about 10 nm (logistic in wavelength); 0..1.
 */
export function passBand(from: number, to: number): Spectrum {
  const edge = (v: number) => 1 / (1 + Math.exp(-v / 3))
  return spectrumFrom((nm) => edge(nm - from) * edge(to - nm))
}

interface Table {
  readonly start_nm: number
  readonly step_nm: number
}

/** Takes the 10 nm samples of the grid out of a finer table; throws where the table does not hold a grid wavelength. */
export function sampleTable(table: Table, values: readonly number[]): Spectrum {
  return spectrumFrom((nm) => {
    const value = values[(nm - table.start_nm) / table.step_nm]
    if (value === undefined) throw new Error(`The table has no sample at ${nm} nm.`)
    return value
  })
}
