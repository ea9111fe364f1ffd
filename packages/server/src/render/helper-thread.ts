// A thread that does nothing but take tiles of pictures; see cpu/jobs.ts of core.
import { workerData } from 'node:worker_threads'
import { helpWithTiles } from '@fogbath/core/cpu'

const { memory, thread } = workerData as { memory: WebAssembly.Memory; thread: number }
helpWithTiles(memory, thread)
