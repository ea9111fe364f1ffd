import { seededRandom } from '@fogbath/core/numbers'

/** Failures told in full for one class; of the others only the number. */
const MOST_TOLD = 5

interface Entry {
  tried: number
  failed: number
  readonly told: string[]
  note: string
}

/** What was tried and what failed, by class. */
export class Ledger {
  private readonly entries = new Map<string, Entry>()

  private of(name: string): Entry {
    const known = this.entries.get(name)
    if (known) return known
    const entry: Entry = { tried: 0, failed: 0, told: [], note: '' }
    this.entries.set(name, entry)
    return entry
  }
  tried(name: string): void {
    this.of(name).tried++
  }
  failed(name: string, what: string): void {
    const entry = this.of(name)
    entry.failed++
    if (entry.told.length < MOST_TOLD) entry.told.push(what.slice(0, 500))
  }
  note(name: string, text: string): void {
    this.of(name).note = text
  }
  /** Tries something that must hold. */
  holds(name: string, ok: boolean, what: string): void {
    this.tried(name)
    if (!ok) this.failed(name, what)
  }

  get failures(): number {
    return [...this.entries.values()].reduce((sum, e) => sum + e.failed, 0)
  }
  /** What failed stands last: only the end of it is seen where much is said. */
  lines(): string[] {
    const entries = [...this.entries].sort(([, a], [, b]) => Number(a.failed > 0) - Number(b.failed > 0))
    return entries.flatMap(([name, { tried, failed, told, note }]) => [
      `${name.padEnd(34)} ${String(tried).padStart(6)} tried ${String(failed).padStart(4)} failed${note ? `   ${note}` : ''}`,
      ...told.map((text) => `    ${text}`),
    ])
  }
}

/** Chance that comes again with the same seed. */
export class Chance {
  private readonly next: () => number
  constructor(seed: number) {
    this.next = seededRandom(seed)
  }
  /** From 0 up to, not including, n. */
  below(n: number): number {
    return Math.floor(this.next() * n)
  }
  of<T>(things: readonly T[]): T {
    return things[this.below(things.length)]!
  }
  shuffled<T>(things: readonly T[]): T[] {
    const all = [...things]
    for (let i = all.length - 1; i > 0; i--) {
      const j = this.below(i + 1)
      ;[all[i], all[j]] = [all[j]!, all[i]!]
    }
    return all
  }
  /** Whether something of this likelihood, 0..1, comes about. */
  happens(share: number): boolean {
    return this.next() < share
  }
}
