import { createServer } from 'node:net'

/** Whether a port on loopback can be listened on. */
export const isFree = (port) =>
  new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen({ host: '127.0.0.1', port, exclusive: true }, () => probe.close(() => resolve(true)))
  })

/** Any free port. */
export const anyPort = () =>
  new Promise((resolve, reject) => {
    const probe = createServer()
    probe.once('error', reject)
    probe.listen({ host: '127.0.0.1', port: 0 }, () => {
      const { port } = probe.address()
      probe.close(() => resolve(port))
    })
  })
