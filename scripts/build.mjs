// Bundles the server, the command line and the frame worker with esbuild (`build.mjs server`), the page with Vite
// (`build.mjs web`), or both.
import { execFileSync } from 'node:child_process'
import { build } from 'esbuild'
import { SERVER_BUILD, clearServerBuild } from './lib/server-build.mjs'
import { ROOT } from './lib/setup.mjs'

const only = process.argv[2]
if (only !== 'web') {
  clearServerBuild()
  await build(SERVER_BUILD)
}
if (only !== 'server')
  execFileSync('npx', ['--no-install', 'vite', 'build', '--logLevel', 'warn'], {
    cwd: `${ROOT}/packages/web`,
    stdio: 'inherit',
  })
