import { workerData } from 'node:worker_threads'
import { helpWithTiles } from '../src/cpu'

const { memory, thread } = workerData as { memory: WebAssembly.Memory; thread: number }
helpWithTiles(memory, thread)
