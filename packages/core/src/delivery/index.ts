export * from './formats'
