import type { PartType } from '@fogbath/core/masks'

/** What parts of a mask are called. */
export const PART_NAMES: Record<PartType, string> = {
  ellipse: 'Ellipse',
  rectangle: 'Rectangle',
  gradient: 'Gradient',
  outline: 'Outline',
  tone: 'Tones',
  colour: 'Colours',
  range: 'Hues',
}
