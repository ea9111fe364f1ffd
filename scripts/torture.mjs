// npm run torture [-- --minutes 10 --seed 1]: mistreats the application on this machine and tells what broke.
import { build } from 'esbuild'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { Problem, run, say } from './lib/say.mjs'
import { ROOT, build as buildProgram, checkDisk, checkNode, installPackages, installPrograms } from './lib/setup.mjs'

const { values } = parseArgs({
  options: { minutes: { type: 'string', default: '10' }, seed: { type: 'string', default: '1' } },
})

function numberOf(name, least, most) {
  const value = Number(values[name])
  if (!(value >= least && value <= most))
    throw new Problem(`--${name} is '${values[name]}'; it must be a number from ${least} to ${most}.`)
  return value
}

run(async () => {
  const [minutes, seed] = [numberOf('minutes', 1, 600), numberOf('seed', 0, 2 ** 31)]
  checkNode()
  checkDisk()
  installPrograms(['mariadbd', 'ffmpeg'])
  installPackages()
  buildProgram()
  // As deep as the scripts that it takes in: they find the project's folder from their own.
  mkdirSync(join(ROOT, '.fogbath/torture'), { recursive: true })
  const outfile = join(ROOT, '.fogbath/torture/torture.mjs')
  await build({
    entryPoints: [join(ROOT, 'scripts/torture/main.ts')],
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'warning',
    outfile,
    external: ['piscina', 'sequelize', 'mariadb', 'umzug', 'fastify', '@fastify/*', 'yazl', 'esbuild'],
    banner: {
      js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
    },
  })
  const { torture } = await import(outfile)
  const failed = await torture({ minutes, seed, root: ROOT, say })
  return failed === 0 ? 0 : 1
})
