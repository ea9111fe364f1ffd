// A thread that does nothing but take tiles of pictures; see cpu/jobs.ts of core.
import { helpWithTiles } from '@fogbath/core/cpu'

export interface Help {
  readonly memory: WebAssembly.Memory
  readonly thread: number
}

self.onmessage = ({ data }: MessageEvent<Help>) => helpWithTiles(data.memory, data.thread)
