export * from './blend'
