import { QueryTypes, type Sequelize } from 'sequelize'
import { Fault } from '../errors'

interface Checked {
  readonly Table: string
  readonly Msg_type: string
  readonly Msg_text: string
}

const WAY_OUT =
  'Nothing has been changed. Bring the folder db of the data folder back from a copy; or start with a new data folder (FOGBATH_DATA=/another) and bring the productions back from a backup with `npx fogbath restore FILE`.'

/**
 * Reads every table through once, so that a damaged one is told at the start and not found by somebody's work.
 * @throws Fault naming the table and the ways out
 */
export async function checkTables(sequelize: Sequelize): Promise<void> {
  const names = await sequelize.query<{ name: string }>(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE'",
    { type: QueryTypes.SELECT },
  )
  if (names.length === 0) return
  // Without QUICK, entries that point nowhere are looked for too; that takes as long again.
  const list = names.map(({ name }) => `\`${name}\``).join(', ')
  const answers = await sequelize.query<Checked>(`CHECK TABLE ${list} QUICK`, { type: QueryTypes.SELECT })
  const bad = answers.find(
    ({ Msg_type, Msg_text }) => Msg_type === 'Error' || (Msg_type === 'status' && Msg_text !== 'OK'),
  )
  if (bad) throw new Fault('program', `${damaged(bad.Table.split('.').pop()!)} (${textOf(bad)}). ${WAY_OUT}`)
}

/** Without the advice to drop the table, which would throw away what may still be saved. */
const textOf = ({ Msg_text }: Checked): string => Msg_text.replace(/\.? ?(Please drop the table.*)?$/, '')

const damaged = (table: string): string => `The table “${table}” of the database is damaged`

/** MariaDB's codes for a table that it cannot read (its list of error codes): its own words name files, not ways out. */
const DAMAGED = new Set(['ER_GET_ERRNO', 'ER_NO_SUCH_TABLE_IN_ENGINE', 'ER_TABLE_CORRUPT', 'ER_NOT_FORM_FILE'])

/** What to say of an error that a damaged table made while the program runs, or null for any other. */
export function damageIn(error: unknown): string | null {
  const code = (error as { parent?: { code?: string } }).parent?.code ?? ''
  if (!DAMAGED.has(code)) return null
  return 'A table of the database is damaged. Stop Fog Bath and start it again: it says then which one, and what can be done.'
}
