export * from './charts'
