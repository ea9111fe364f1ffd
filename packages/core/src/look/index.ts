export { decisionFile } from './decision'
export * from './error'
export * from './holds'
export * from './look'
