export * from './compile'
export * from './plan'
export * from './run'
export * from './work'
