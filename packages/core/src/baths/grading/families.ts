/** Families of the kinds around the chemistry; each kind has a drawing of its own. */
export const LIGHT = 'Light'
export const TONE = 'Tone'
export const COLOUR = 'Colour'
export const LAID_OVER = 'Laid over'
