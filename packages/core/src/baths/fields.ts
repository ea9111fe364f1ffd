import Type from 'typebox'

/**
 * Makers of settings. One definition gives type, range, unit, default and texts to the controls, to validation and to
 * the documentation. `group` names the tab a setting lies on; `first` marks the few that are shown at once.
 */
export interface FieldTexts {
  readonly title: string
  readonly description: string
  readonly group: string
  readonly first?: boolean
  readonly unit?: string
  /** Smallest sensible change, in the setting's unit. */
  readonly step?: number
  /** It counts, and is shown, only while another setting is this. */
  readonly only?: { readonly setting: string; readonly is: string | boolean }
  /** How it is drawn where a slider, a switch or a list of names would not do. */
  readonly control?: Control
}

/** Whether a setting counts beside the others of its bath. */
export const applies = (
  { only }: { readonly only?: FieldTexts['only'] | undefined },
  settings: Readonly<Record<string, unknown>>,
): boolean => !only || settings[only.setting] === only.is

/** The extra keywords above, for validators in strict mode. */
export const FIELD_KEYWORDS = ['group', 'first', 'unit', 'step', 'labels', 'titles', 'control', 'only'] as const

/** `drawn`: it is part of a drawing of its kind, and has no row of its own there. */
export type Control = 'hue' | 'colour' | 'drawn'

export const number = (minimum: number, maximum: number, fallback: number, texts: FieldTexts) =>
  Type.Number({ minimum, maximum, default: fallback, ...texts })

export const percent = (fallback: number, texts: FieldTexts, maximum = 100) =>
  number(0, maximum, fallback, { unit: '%', step: 1, ...texts })

export const toggle = (fallback: boolean, texts: FieldTexts) => Type.Boolean({ default: fallback, ...texts })

/** One of a few named values; `labels` in the same order are what the page shows. */
export const choice = <const T extends readonly string[]>(
  values: T,
  labels: readonly string[],
  fallback: T[number],
  texts: FieldTexts,
) => Type.Unsafe<T[number]>({ type: 'string', enum: [...values], default: fallback, labels: [...labels], ...texts })

/** A hue in degrees: red 0, yellow 60, green 120, cyan 180, blue 240, magenta 300. */
export const hueAngle = (fallback: number, texts: FieldTexts) =>
  number(0, 360, fallback, { unit: '°', step: 1, control: 'hue', ...texts })

/** A colour as its display code values, 8 bits each in hexadecimal digits. */
export const colour = (fallback: string, texts: FieldTexts) =>
  Type.String({ pattern: '^#[0-9a-fA-F]{6}$', default: fallback, control: 'colour', ...texts })

export type Points = readonly (readonly [x: number, y: number])[]

/** Points of a curve. @param from,to what y may be; x runs from 0 to 1 */
export const points = ([from, to]: readonly [number, number], fallback: Points, texts: FieldTexts) =>
  Type.Unsafe<Points>({
    type: 'array',
    minItems: 1,
    maxItems: 24,
    items: {
      type: 'array',
      items: [
        { type: 'number', minimum: 0, maximum: 1 },
        { type: 'number', minimum: from, maximum: to },
      ],
      minItems: 2,
      additionalItems: false,
    },
    default: fallback.map((point) => [...point]),
    control: 'drawn',
    ...texts,
  })

/** Printer light of one channel in points; 25 is neutral (common practice: 0.025 log exposure each, 12 are a stop). */
export const printerLight = (name: 'red' | 'green' | 'blue') =>
  number(0, 50, 25, {
    title: `Printer light, ${name}`,
    description: `More ${name} light on the print gives more ${{ red: 'cyan', green: 'magenta', blue: 'yellow' }[name]} dye. 12 points are one stop.`,
    group: 'Printer',
    unit: 'pt',
    step: 0.5,
    first: true,
  })

/** Points of light, where more is brighter. @param on what the light falls */
export const lightPoints = (name: 'red' | 'green' | 'blue', on: 'scene' | 'screen', first = false) =>
  number(-25, 25, 0, {
    title: `Light, ${name}`,
    description: `Points of ${name} light on the ${on}; 12 are a stop, more is brighter.`,
    group: 'Light',
    unit: 'pt',
    step: 0.5,
    ...(first && { first }),
  })

/** Timing, for the kinds whose result is printed. */
export const holdGreyToggle = (group: string, texts: Partial<FieldTexts> = {}) =>
  toggle(true, { title: 'Hold mid grey', description: '18 % grey prints to 18 % of white.', group, ...texts })

/** The viewing room of whatever is projected. */
export const projectionFields = () => ({
  lamp: choice(['d65', 'xenon', 'tungsten'], ['Daylight D65', 'Xenon', 'Tungsten'], 'd65', {
    title: 'Lamp',
    description: 'The projector’s lamp. The eye adapts to it; what remains is how the dyes take to its spectrum.',
    group: 'Projection',
  }),
  flare: number(0, 5, 0.15, {
    title: 'Flare',
    description: 'Stray light on the screen, in per cent of white. 0.15 % is the ordinary viewing room.',
    group: 'Projection',
    unit: '%',
    step: 0.05,
  }),
})

/** The fields of a schema, as whoever draws or reads them in turn takes them. */
export const fieldsOf = <F>(schema: { readonly properties: object }): Readonly<Record<string, F>> =>
  schema.properties as Readonly<Record<string, F>>
