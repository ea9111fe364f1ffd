// Starts the application for tests and measurements, beside one that may be running.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { anyPort } from './ports.mjs'
import { Problem } from './say.mjs'
import { ROOT } from './setup.mjs'

/**
 * The application as npm start runs it, with a data folder and a port of its own.
 * @param told is given all that it says; shown as it comes when left out
 */
export async function startApplication(data, told) {
  const env = { ...process.env, FOGBATH_DATA: data, FOGBATH_PORT: String(await anyPort()) }
  const child = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs')], {
    env,
    stdio: ['ignore', 'pipe', told ? 'pipe' : 'inherit'],
  })
  let said = ''
  for (const stream of told ? [child.stdout, child.stderr] : [])
    stream.on('data', (chunk) => {
      said = (said + chunk).slice(-2000)
      told(String(chunk))
    })
  const ended = new Promise((done) => child.once('exit', done))
  const url = await new Promise((resolve, reject) => {
    let text = ''
    child.stdout.on('data', (chunk) => {
      text += chunk
      const found = /ready: (\S+)/.exec(text)
      if (found) resolve(found[1])
    })
    ended.then(() => reject(new Problem(`The application did not start. ${told ? said : ''}`.trim())))
  })
  return {
    url,
    stop: async () => {
      child.kill('SIGINT')
      return (await ended) === 0
    },
  }
}
