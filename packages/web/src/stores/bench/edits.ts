import {
  bathsUpToDate,
  changeBath,
  changeMask,
  changeSettings,
  duplicateBath,
  editAt,
  findBath,
  insertInLine,
  newBath,
  newId,
  notesOf,
  putAt,
  removeBath,
  wholeLine,
  type Bath,
  type Line,
  type Marks,
  type Note,
  type Recipe,
  type Step,
} from '@fogbath/core/line'
import { asLinked, type Mask } from '@fogbath/core/masks'
import { redo, remember, undo } from './history'
import { gesture } from './gesture'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'

const MERGE_MS = 700

/** The bath that a line has and the one before it had not. */
export function addedTo(before: Line, after: Line): string | undefined {
  const known = new Set(wholeLine(before).map((bath) => bath.id))
  return wholeLine(after).find((bath) => !known.has(bath.id))?.id
}

type PartsStep = Extract<Step, { kind: 'parts' }>

/** How steps of other kinds are brought back; see trials.ts and shots.ts. */
export interface Restorers {
  readonly parts: (step: PartsStep) => void
  readonly shots: (step: Extract<Step, { kind: 'shots' }>) => Promise<void>
  readonly now: (like: Step) => Step
}

/** Changes to the line and the shot, each with its step of undo. */
export function benchEdits(s: BenchState, saving: BenchSaving) {
  let lastThing = ''
  let lastTime = 0
  let lastGesture = 0

  /**
   * Remembers what was there before a change. Changes of the same thing while the pointer is held down (a dragged slider), or
   * by keys that follow each other quickly, are one step of undo; what was dragged and what is typed then are two.
   * @param key names what is changed in the shot; empty for what never merges
   * @returns what takes the step back, for a change that did not come about
   */
  function keep(before: Step, key: string): () => void {
    const now = Date.now()
    const thing = key && `${s.shotThere.value?.id}/${s.trial.value?.id}/${key}`
    const [drag, goesOn] = [gesture(), thing !== '' && thing === lastThing]
    const merges = goesOn && drag === lastGesture && (drag !== 0 || now - lastTime < MERGE_MS)
    lastThing = thing
    lastTime = now
    lastGesture = drag
    if (merges) return () => undefined
    s.history.value = remember(s.history.value, before)
    const { key: own } = s.history.value.past.at(-1)!
    saving.keepHistory()
    return () => {
      s.history.value = { ...s.history.value, past: s.history.value.past.filter((kept) => kept.key !== own) }
      saving.keepHistory()
    }
  }

  /** Changes any of the three parts; only what changes is kept for undo. */
  function changeLine(next: Line, key = ''): void {
    const { preparation, recipe, after } = s.line.value
    const own = {
      ...(next.recipe !== recipe && { recipe }),
      ...(next.after !== after && { after }),
    }
    const shared = next.preparation === preparation ? {} : { preparation }
    if (Object.keys({ ...own, ...shared }).length === 0) return
    const trialId = Object.keys(own).length > 0 ? (s.trial.value?.id ?? null) : null
    if (s.trial.value) keep({ kind: 'parts', trialId, ...shared, ...own }, key)
    put(next)
  }
  const change = (next: Recipe, key = ''): void => changeLine({ ...s.line.value, recipe: next }, key)

  function put(next: Line): void {
    const { preparation, recipe, after } = s.line.value
    if (next.preparation !== preparation) saving.saveShot({ preparation: next.preparation })
    if (next.recipe === recipe && next.after === after) return s.keepChoice()
    s.turnTo(next)
    saving.saveLine()
  }
  /** Edits the part of the line in which a bath stands. */
  const edit = (id: string, how: (recipe: Recipe) => Recipe, key = ''): void =>
    changeLine(editAt(s.line.value, id, how), key)

  /** @param once what is done at a click is a step of undo of its own, however soon after another */
  function setSettings(id: string, settings: Record<string, unknown>, once = false): void {
    const { own, keys } = putAt(bathOf(id), settings, s.instant.value)
    const put = (part: Recipe): Recipe => {
      const set = Object.keys(own).length > 0 ? changeSettings(part, id, own) : part
      return keys ? changeBath(set, id, { keys }) : set
    }
    edit(id, put, once ? '' : `${id}/${Object.keys(settings).join()}`)
  }
  function setBath(id: string, values: Partial<Omit<Bath, 'id' | 'kind'>>): void {
    const { own, keys } = putAt(bathOf(id), values, s.instant.value)
    edit(id, (part) => changeBath(part, id, { ...own, ...(keys && { keys }) }), `${id}/${Object.keys(values).join()}`)
  }
  const bathOf = (id: string): Bath => findBath({ baths: s.inLine.value }, id)!

  /** @param key names what is changed, so that dragging it is one step of undo; empty for what is done at a click */
  const setMask = (id: string, mask: Mask | null, key: string): void =>
    changeLine(changeMask(s.line.value, id, mask), key && `${id}/mask/${key}`)

  /** Gives a bath the mask of another, or its opposite; from then on they are one. */
  function linkMask(id: string, of: string, opposite: boolean): void {
    const theirs = bathOf(of).mask
    if (!theirs) return
    const link = theirs.link ?? { id: newId(), opposite: false }
    const linked = changeMask(s.line.value, of, { ...theirs, link })
    changeLine(
      changeMask(linked, id, asLinked({ ...theirs, link }, { id: link.id, opposite: link.opposite !== opposite })),
    )
  }

  /** Sets the balance of the shot, its first one; one is put there where it has none. */
  function setBalance(settings: Record<string, unknown>): void {
    const there = s.line.value.preparation.find((bath) => bath.kind === 'balance')
    if (there) return setSettings(there.id, settings, true)
    const made = newBath('balance', newId(), settings)
    changeLine({ ...s.line.value, preparation: [made, ...s.line.value.preparation] })
  }
  /** A new bath of the shot's own, chosen. */
  function addOwn(kind: 'balance' | 'timing'): void {
    const made = newBath(kind, newId())
    const before = s.line.value
    changeLine(insertInLine(before, made))
    s.chosen.value = addedTo(before, s.line.value) ?? s.chosen.value
  }
  const setMarks = (marks: Marks): void => saving.saveShot({ marks })
  /** @param frame null for a note on the whole shot */
  function addNote(text: string, frame: number | null, author: string): void {
    const note: Note = { key: newId(), frame, text, author, time: new Date().toISOString() }
    setMarks({ ...s.marks.value, notes: [...notesOf(s.marks.value), note] })
  }
  const removeNote = (key: string): void =>
    setMarks({ ...s.marks.value, notes: notesOf(s.marks.value).filter((note) => note.key !== key) })

  /** The twin stands behind its original and is chosen. */
  function duplicate(id: string): void {
    const before = s.line.value
    edit(id, (part) => duplicateBath(part, id))
    s.chosen.value = addedTo(before, s.line.value) ?? s.chosen.value
  }

  /** Takes baths out of whichever part they stand in, as one step. */
  const remove = (ids: readonly string[]): void =>
    changeLine(ids.reduce((line, id) => editAt(line, id, (part) => removeBath(part, id)), s.line.value))

  const copy = (): void => void (s.clipboard.value = [...s.baths.value])
  /** Puts the copied baths behind the chosen one, each where it may stand. */
  function paste(): void {
    let behind = s.chosen.value ?? undefined
    let next = s.line.value
    // They may have been copied before an update.
    for (const bath of bathsUpToDate(s.clipboard.value)) {
      const before = next
      next = insertInLine(before, bath, behind)
      behind = addedTo(before, next)
    }
    changeLine(next)
    if (behind) s.chosen.value = behind
  }

  async function turn(which: typeof undo, restore: Restorers): Promise<void> {
    const before = s.history.value
    const turned = which(before, restore.now)
    if (!turned) return
    lastThing = ''
    s.history.value = turned.history
    saving.keepHistory()
    const { step } = turned
    if (step.kind === 'parts') restore.parts(step)
    else
      await restore.shots(step).catch((error: unknown) => {
        // Nothing was brought back: the step stays where it was.
        if (s.history.value === turned.history) s.history.value = before
        saving.keepHistory()
        throw error
      })
  }

  return {
    change,
    changeLine,
    put,
    keep,
    setSettings,
    setBath,
    setMask,
    linkMask,
    setBalance,
    addOwn,
    setMarks,
    addNote,
    removeNote,
    duplicate,
    remove,
    copy,
    paste,
    undo: (restore: Restorers) => turn(undo, restore),
    redo: (restore: Restorers) => turn(redo, restore),
  }
}
export type BenchEdits = ReturnType<typeof benchEdits>
