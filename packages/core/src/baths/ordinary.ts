import { aged } from './aged'
import { contrast } from './grading/contrast'
import { toneCurves } from './grading/curves'
import { hueResponse } from './grading/hues'
import { mixer } from './grading/mixer'
import { overlay } from './grading/overlay'
import { pickedColour } from './grading/picked'
import { ranges } from './grading/ranges'
import { saturation } from './grading/saturation'
import { timing } from './grading/timing'
import { splitByHand } from './grading/split-tone'
import { veil } from './grading/veil'
import { balance } from './preparing/balance'
import { decisionList } from './preparing/cdl'
import { inputLut } from './preparing/input-lut'
import { printerLights } from './preparing/printer-lights'
import { colourPrint } from './colour-print'
import { falseColour } from './false-colour'
import { instant } from './instant'
import type { Kind } from './kind'
import { mono } from './mono'
import { detail } from './texture/detail'
import { dust } from './texture/dust'
import { frame } from './texture/frame'
import { glow } from './texture/glow'
import { grain } from './texture/grain'
import { halation } from './texture/halation'
import { haze } from './texture/haze'
import { shadeSpread } from './texture/shade'
import { softness } from './texture/softness'
import { vignette } from './texture/vignette'
import { weave } from './texture/weave'
import { threeStrip } from './three-strip'
import { twoStrip } from './two-strip'

/** Every kind of bath but the one that holds others. */
export const ORDINARY_KINDS: readonly Kind[] = [
  ...[balance, printerLights, decisionList, inputLut],
  ...[colourPrint, twoStrip, threeStrip, mono, instant, falseColour, aged],
  ...[timing, contrast, toneCurves, ranges, saturation, hueResponse, pickedColour, mixer, splitByHand, veil, overlay],
  ...[detail, softness, glow, shadeSpread, halation, haze, grain, vignette, weave, dust, frame],
]
