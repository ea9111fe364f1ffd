export * from './shared'
