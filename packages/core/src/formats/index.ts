export * from './cdl'
export * from './cube-read'
