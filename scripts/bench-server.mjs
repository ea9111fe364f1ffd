// The part of npm run bench that times the server's lists with 500 productions, 10 000 shots and 500 renders, and Storage with 1.6 GB of proofs.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startApplication } from './lib/application.mjs'
import { figure, median } from './lib/figures.mjs'

const PRODUCTIONS = 500
const SHOTS = 20
const ASKED = 200
const PROOFS = 200

/** Of 8 MB: the header of a PNG, and what no server looks at. */
const header = Buffer.from('89504e470d0a1a0a0000000d494844520000001000000009', 'hex')
const picture = Buffer.concat([header, Buffer.alloc(8e6, 7)]).toString('base64')
const PROOF = { name: 'Large', frame: 0, picture }

const folder = mkdtempSync(join(tmpdir(), 'fogbath-bench-'))
// The database runs as an account of its own, which must get there.
chmodSync(folder, 0o755)
const application = await startApplication(join(folder, 'data'))

async function call(path, method = 'GET', body) {
  const init = body ? { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } } : {}
  const reply = await fetch(`${application.url}/api${path}`, { method, ...init })
  if (!reply.ok) throw new Error(`${method} ${path}: ${reply.status} ${await reply.text()}`)
  return reply.status === 204 ? undefined : reply.json()
}

/** Times of one address and of a reference, asked in turn, ms. */
async function timed(path, reference) {
  const times = { path: [], reference: [] }
  for (let i = 0; i < ASKED; i++)
    for (const [name, address] of [
      ['path', path],
      ['reference', reference],
    ]) {
      const start = performance.now()
      await call(address)
      times[name].push(performance.now() - start)
    }
  return times
}
const p95 = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)]

try {
  const demo = (await call('/productions')).items[0]
  const { id } = await call('/productions', 'POST', { name: 'One of many' })
  let shot
  for (let i = 0; i < SHOTS; i++)
    shot = await call(`/productions/${id}/shots`, 'POST', { mediumId: demo.shots[i % demo.shots.length].mediumId })
  for (let i = 2; i < PRODUCTIONS; i++) await call(`/productions/${id}/copy`, 'POST')
  for (let i = 0; i < 500; i++) {
    const render = await call(`/shots/${shot.id}/renders`, 'POST', { format: 'png' })
    await call(`/renders/${render.id}/action`, 'POST', { action: 'cancel' })
  }
  const middle = (await call('/productions')).items.at(-1).id
  const wanted = { must: 50, goal: 25 }
  for (const [name, path] of [
    ['productions, first page', '/productions'],
    ['productions, a page further on', `/productions?before=${middle}`],
    ['one production of 20 shots', `/productions/${id}`],
    ['renders, first page', '/renders'],
  ]) {
    const { path: own, reference } = await timed(path, '/health')
    figure(`list: ${name}, 95th percentile`, p95(own), 'ms', wanted)
    figure(`list: ${name}, of an answer that is one query`, median(own) / median(reference), 'x')
  }
  for (let i = 0; i < PROOFS; i++) {
    const { id: shotId } = await call(`/productions/${id}/shots`, 'POST', { mediumId: demo.shots[0].mediumId })
    await call(`/shots/${shotId}/proofs`, 'POST', {
      ...PROOF,
      recipe: shot.trials[0].recipe,
      preparation: [],
      after: [],
    })
  }
  const { path: own } = await timed('/storage', '/health')
  figure('storage with 1.6 GB of proofs, 95th percentile', p95(own), 'ms', { must: 300, goal: 100 })
} finally {
  await application.stop()
  rmSync(folder, { recursive: true, force: true })
}
