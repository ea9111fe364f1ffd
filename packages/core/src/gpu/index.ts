export * from './shader'
