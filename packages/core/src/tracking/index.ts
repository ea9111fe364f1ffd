export { greyOf, type Grey } from './grey'
export { LOST, ShapeTrack, type Tracked } from './track'
export { ALL_MOTIONS, type Motion } from './warp'
