export * from './order'
export * from './treatment'
