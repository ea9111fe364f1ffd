export { greyOf, type Grey } from './grey'
export { ShapeTrack, type Tracked } from './track'
export { ALL_MOTIONS, type Motion } from './warp'
