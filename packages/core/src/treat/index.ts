export * from './drafts'
export * from './order'
export * from './treatment'
export * from './edition'
