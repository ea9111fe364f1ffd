import { spawnSync } from 'node:child_process'
import type { Triple } from '@fogbath/core/colour'

/** Colours through an OpenColorIO transform, which Python source makes as `t`. */
export function throughOcio(source: string, colours: readonly Triple[]): Triple[] {
  const program = `
import json, sys, PyOpenColorIO as o
${source}
p = o.Config.CreateRaw().getProcessor(t).getDefaultCPUProcessor()
print(json.dumps([p.applyRGB(c) for c in json.load(sys.stdin)]))`
  const run = spawnSync('/usr/bin/python3', ['-c', program], {
    input: JSON.stringify(colours),
    encoding: 'utf8',
    maxBuffer: 1e8,
  })
  if (run.status !== 0) throw new Error(run.stderr)
  return JSON.parse(run.stdout) as Triple[]
}
