import type { Encoding } from '../encodings'
import type { Recipe } from './recipe'

type Refers = Encoding['refers']

/** What happens to a look on footage of the other kind. */
const WORDS: Record<Refers, string> = {
  scene:
    'It was made on camera light, and this is finished video: that is brought back to light first, and what its screen cut off above white does not come back, so highlights end sooner.',
  display:
    'It was made on finished video, and this is camera light: light above white comes to the print as well, so highlights reach further and may want a darker timing.',
}

/**
 * What is to be known before a recipe goes on footage of another kind than it was made on.
 * @param refers what the footage refers to @returns a sentence, or null where both are alike or it is not known
 */
export const otherFootage = (
  { madeFor }: { readonly madeFor?: Recipe['madeFor'] | undefined },
  refers: Refers,
): string | null => (madeFor && madeFor !== refers ? WORDS[madeFor] : null)
