import type { Migration } from './columns'
import { DELIVERIES } from './deliveries'
import { PRODUCTIONS } from './productions'
import { SHELF } from './shelf'

/**
 * Every step of the schema, oldest first. What a released step leads to is never changed. MariaDB ends a transaction at
 * each change of a table, so a start that is cut off leaves a step half done: every statement can be run again.
 */
export const MIGRATIONS: readonly Migration[] = [...PRODUCTIONS, ...SHELF, ...DELIVERIES]
