import { deepStrictEqual } from 'node:assert'
import { request, type FullConfig } from '@playwright/test'
import { demoProduction } from './helpers'

/** Every test copies the demo production: what one leaves behind in it would be met by all others. */
export default async function demoUntouched({ projects }: FullConfig): Promise<() => Promise<void>> {
  const { baseURL } = projects[0]!.use
  const reading = async () => {
    const context = await request.newContext({ baseURL: baseURL! })
    try {
      return await demoProduction(context)
    } finally {
      await context.dispose()
    }
  }
  const before = await reading()
  return async () => deepStrictEqual(await reading(), before, 'A test has changed the demo production itself.')
}
