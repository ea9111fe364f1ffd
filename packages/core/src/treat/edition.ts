declare const FOGBATH_EDITION: string | undefined

/**
 * What this build of core computes with: a digest of core's sources and kernels, worked out where it is built. Pictures of the
 * same order by the same edition are the same to the bit.
 */
export const EDITION: string = typeof FOGBATH_EDITION === 'string' ? FOGBATH_EDITION : 'unbuilt'
