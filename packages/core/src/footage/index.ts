export * from './reading'
export * from './numbered'
