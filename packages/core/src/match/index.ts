export * from './least-squares'
export * from './match'
export { movableSettings, type MatchRequest } from './problem'
export * from './statistics'
