export * from './dyes'
export * from './grid'
export * from './standards'
export * from './status'
