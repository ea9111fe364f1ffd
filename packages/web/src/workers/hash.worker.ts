import { expose } from 'comlink'
import { createSHA256 } from 'hash-wasm'

/** SHA-256 of files, read piece by piece: of a whole file, or of its beginning. */
const engine = {
  async hash(file: Blob): Promise<string> {
    const sha = await createSHA256()
    const reader = file.stream().getReader()
    for (let { done, value } = await reader.read(); !done; { done, value } = await reader.read()) sha.update(value!)
    return sha.digest('hex')
  },
}
export type HashEngine = typeof engine
expose(engine)
