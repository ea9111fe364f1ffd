import Type, { type Static } from 'typebox'

export const MOST_PROBES = 8
/** Half the side of the smallest area that a probe reads, as a share of the picture's width. */
export const PROBE_REACH = 0.004

const share = (description: string) => Type.Number({ minimum: 0, maximum: 1, description })

const ProbeMarkSchema = Type.Object(
  {
    u: share('Across, 0 at the left edge.'),
    v: share('Down, 0 at the upper edge.'),
    reach: Type.Number({ minimum: PROBE_REACH, maximum: 0.5, description: 'Half the side, in shares of the width.' }),
  },
  { additionalProperties: false },
)
export type ProbeMark = Static<typeof ProbeMarkSchema>

/** What a colourist has marked on a shot: places that are measured, and the grey card. */
export const MarksSchema = Type.Object(
  {
    probes: Type.Array(ProbeMarkSchema, { maxItems: MOST_PROBES }),
    /** Scene light (luminance, before trims) of the footage's own mid grey, or null where no card was marked. */
    grey: Type.Union([Type.Number({ minimum: 1e-6, maximum: 1e4 }), Type.Null()]),
  },
  { additionalProperties: false },
)
export type Marks = Static<typeof MarksSchema>

export const NO_MARKS: Marks = { probes: [], grey: null }
