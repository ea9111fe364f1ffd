// Bundles the server, the command line and the frame worker with esbuild, and the page with Vite.
import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { build } from 'esbuild'

const root = new URL('..', import.meta.url).pathname
const server = `${root}packages/server/`

// Parts carry a hash in their names, so those of earlier builds would pile up.
rmSync(`${server}dist`, { recursive: true, force: true })
await build({
  entryPoints: {
    fogbath: `${server}src/cli/fogbath.ts`,
    serve: `${server}src/serve.ts`,
    'frame-worker': `${server}src/render/frame-worker.ts`,
    'helper-thread': `${server}src/render/helper-thread.ts`,
  },
  outdir: `${server}dist`,
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
})
if (!process.argv.includes('--server-only'))
  execFileSync('npx', ['--no-install', 'vite', 'build', '--logLevel', 'warn'], {
    cwd: `${root}packages/web`,
    stdio: 'inherit',
  })
