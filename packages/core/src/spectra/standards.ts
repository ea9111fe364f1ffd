import basisTable from './data/bt709-reflectance-basis-10nm.json' with { type: 'json' }
import observerTable from './data/cie-1931-2deg-5nm.json' with { type: 'json' }
import illuminantTable from './data/cie-illuminants.json' with { type: 'json' }
import { sampleTable, spectrumFrom, type Spectrum } from './grid'

/** CIE 1931 2-degree colour-matching functions (CIE 15, table T.4), on the 10 nm grid. */
export const OBSERVER: { readonly x: Spectrum; readonly y: Spectrum; readonly z: Spectrum } = {
  x: sampleTable(observerTable, observerTable.x),
  y: sampleTable(observerTable, observerTable.y),
  z: sampleTable(observerTable, observerTable.z),
}

const daylight = illuminantTable.illuminants.D65
const tungsten = illuminantTable.illuminants.A

/** CIE standard illuminant D65, relative power. */
export const D65: Spectrum = sampleTable(daylight, daylight.power)

/** CIE standard illuminant A (tungsten, 2856 K), relative power. */
export const ILLUMINANT_A: Spectrum = sampleTable(tungsten, tungsten.power)

/** Second radiation constant in nm·K (CODATA 2018). */
const C2 = 1.438776877e7

/** Planck's law, relative to 560 nm. @param kelvin temperature in K, > 0 */
export function planckian(kelvin: number): Spectrum {
  const power = (nm: number) => nm ** -5 / Math.expm1(C2 / (nm * kelvin))
  const scale = power(560)
  return spectrumFrom((nm) => power(nm) / scale)
}

/**
 * A xenon short-arc lamp in the visible: close to a black body of 6000 K with weak lines near 470 nm (from memory).
 */
const XENON: Spectrum = (() => {
  const body = planckian(6000)
  const line = (nm: number) => 0.08 * Math.exp(-4 * Math.LN2 * ((nm - 468) / 20) ** 2)
  return spectrumFrom((nm) => body[(nm - 380) / 10]! + line(nm))
})()

/**
 * Reflectance spectra of the linear BT.709 primaries under D65; they sum to one at every wavelength (up to the six
 * digits of the table), so that R·red + G·green + B·blue is flat for a neutral. Method: Mallett and Yuksel 2019.
 */
export const BT709_BASIS: readonly [Spectrum, Spectrum, Spectrum] = [
  Float64Array.from(basisTable.red),
  Float64Array.from(basisTable.green),
  Float64Array.from(basisTable.blue),
]

export const LAMPS = { d65: D65, xenon: XENON, tungsten: ILLUMINANT_A } as const
export type LampName = keyof typeof LAMPS
