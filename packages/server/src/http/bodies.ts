import { checkValue } from '../outside/texts'
import type { App } from './context'

/** What no schema says of a JSON body, because it holds anywhere in it. */
export function installBodies(app: App): void {
  app.addHook('preValidation', async (request) => {
    if (request.body !== undefined && request.body !== null) checkValue(request.body, 'body')
  })
}
