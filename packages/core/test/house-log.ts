import type { EncodingParameters } from '../src/encodings'

/** ACEScct in the camera form of a log curve, and its primaries (Academy S-2016-001 and S-2014-004): a shipped encoding in other words. */
export const HOUSE_LOG: EncodingParameters = {
  name: 'House log',
  refers: 'scene',
  curve: {
    type: 'log',
    base: 2,
    logSideSlope: 1 / 17.52,
    logSideOffset: 9.72 / 17.52,
    linSideSlope: 1,
    linSideOffset: 0,
    linSideBreak: 0.0078125,
    linearSlope: 10.5402377416545,
  },
  primaries: { red: [0.713, 0.293], green: [0.165, 0.83], blue: [0.128, 0.044], white: [0.32168, 0.33767] },
}
