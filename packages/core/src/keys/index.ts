export * from './lane'
export * from './schema'
