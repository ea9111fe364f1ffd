import type { RunStep } from './plan'

/** Whether a step looks at the line's register, or makes it anew; null for steps that leave it alone. */
function lineIn(step: RunStep): 'read' | 'made' | null {
  if (step.do === 'keep') return 'made'
  if (step.do === 'take' || step.do === 'lay') return 'read'
  if ('slot' in step && step.register === 'line') return step.do === 'load' ? 'made' : 'read'
  return null
}

/** A run without what is kept for nobody. A run's registers end with it. */
export function tidied(steps: readonly RunStep[]): RunStep[] {
  return steps.filter((step, i) => {
    if (step.do !== 'keep') return true
    const next = steps.slice(i + 1).find((s) => lineIn(s) !== null)
    return next !== undefined && lineIn(next) === 'read'
  })
}
