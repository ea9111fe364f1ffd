// What is built of the server, with esbuild: once by build.mjs, on every change by dev.mjs.
import { rmSync } from 'node:fs'
import { DEFINED } from './edition.mjs'
import { ROOT } from './setup.mjs'

const server = `${ROOT}/packages/server/`

export const SERVER_BUILD = {
  entryPoints: {
    fogbath: `${server}src/cli/fogbath.ts`,
    serve: `${server}src/serve.ts`,
    'frame-worker': `${server}src/render/frame-worker.ts`,
    'helper-thread': `${server}src/render/helper-thread.ts`,
    'prove-worker': `${server}src/backup/prove-worker.ts`,
    'tracking-worker': `${server}src/media/tracking-worker.ts`,
  },
  outdir: `${server}dist`,
  define: DEFINED,
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  // Small packages go in, because one file loads several times faster than hundreds; these stay outside.
  external: ['piscina', 'sequelize', 'mariadb', 'umzug', 'fastify', '@fastify/*', 'yazl'],
  banner: {
    js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
  },
  logLevel: 'warning',
}

/** Parts carry a hash in their names, so those of earlier builds would pile up. */
export const clearServerBuild = () => rmSync(`${server}dist`, { recursive: true, force: true })
