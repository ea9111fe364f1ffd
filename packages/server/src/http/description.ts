import swagger from '@fastify/swagger'
import page from '@fastify/swagger-ui'
import { HEADINGS } from '@fogbath/contract'
import type { FastifySchema, onRequestHookHandler } from 'fastify'
import type { App } from './context'

/** Where the description of the API is, for programs and for people. */
const [FILE, PAGE] = ['/api/openapi.json', '/api/docs']

/** A form is read as it comes, so that no schema is there that would check it. */
const ofForm = { type: 'object', properties: { file: { type: 'array', items: { type: 'string', format: 'binary' } } } }
function shown({ schema, url }: { schema: FastifySchema; url: string }) {
  const { consumes, body } = (schema ?? {}) as { consumes?: unknown; body?: unknown }
  return { schema: consumes && !body ? { ...schema, body: ofForm } : schema, url }
}

/** Describes all routes that are made behind it (OpenAPI 3.1), as a file and as a page that takes nothing from outside. */
export async function installDescription(app: App): Promise<void> {
  await app.register(swagger as never, {
    openapi: {
      openapi: '3.1.0',
      info: {
        title: 'Fog Bath',
        version: '1',
        description: 'Every refusal is `{ error, message, details? }`: a code for programs, a sentence for people.',
      },
      tags: Object.keys(HEADINGS).map((name) => ({ name })),
    },
    transform: shown,
    hideUntagged: true,
  })
  // Megabytes that stay the same; written out once.
  let text: string | undefined
  app.get(FILE, { schema: { hide: true } }, (_, reply) => {
    text ??= JSON.stringify((app as unknown as { swagger: () => object }).swagger())
    return reply.type('application/json; charset=utf-8').send(text)
  })
  // Its bar on top is another program's mark, and a field for other descriptions.
  const theme = {
    title: 'Fog Bath, API',
    css: [{ filename: 'own.css', content: '.swagger-ui .topbar { display: none }' }],
  }
  const onRequest: onRequestHookHandler = (request, reply, next) => {
    // With a query its own way from there leads back to itself.
    if (request.url.startsWith(`${PAGE}/static/index.html`)) void reply.redirect(`${PAGE}/`)
    // Its own YAML took four seconds in which nobody else was answered, and is four times as long; JSON is YAML as well.
    else if (/^\/(yaml|json)(\?|$)/.test(request.url.slice(PAGE.length))) void reply.redirect(FILE)
    else next()
  }
  await app.register(page as never, { routePrefix: PAGE, theme, uiHooks: { onRequest } })
}
