import { encodingById, type EncodingDefinition, type EncodingRef } from '@fogbath/core/encodings'
import type { Transaction } from 'sequelize'
import { OwnEncoding, Proof, Render, Shot } from '../db/models'
import { Fault } from '../errors'

const isOwn = (id: string): boolean => id.startsWith('own-')

/** What a row's encoding means. Throws where it is one's own and gone. */
export async function encodingRefOf(id: string, transaction?: Transaction): Promise<EncodingRef> {
  if (!isOwn(id)) return encodingById(id).id
  const row = await OwnEncoding.findByPk(id, transaction ? { transaction } : {})
  if (row) return row.definition
  throw new Fault('invalid', `The encoding ${id} is not here; bring its file to Intake again, or choose another one.`)
}

/** Rows that are taken for an encoding. */
export async function usesOf(id: string, transaction?: Transaction): Promise<number> {
  const of = { where: { encoding: id }, ...(transaction && { transaction }) }
  const counts = await Promise.all([Shot.count(of), Proof.count(of), Render.count(of)])
  return counts.reduce((sum, n) => sum + n, 0)
}

/** Keeps an encoding; one that does the same takes the new name. */
export async function keepEncoding(definition: EncodingDefinition, transaction?: Transaction): Promise<OwnEncoding> {
  const { id, name } = definition
  await OwnEncoding.upsert({ id, name, definition }, transaction ? { transaction } : {})
  return (await OwnEncoding.findByPk(id, transaction ? { transaction } : {}))!
}

/** Keeps one that a file brought along; where it is here already it keeps its name. */
export async function keepNew(definition: EncodingDefinition, transaction: Transaction): Promise<void> {
  const { id, name } = definition
  await OwnEncoding.findOrCreate({ where: { id }, defaults: { id, name, definition }, transaction })
}

/** Definitions of those that are one's own among some ids, each once. */
export async function ownAmong(ids: readonly string[], transaction: Transaction): Promise<EncodingDefinition[]> {
  const own = [...new Set(ids.filter(isOwn))]
  const rows = await OwnEncoding.findAll({ where: { id: own }, order: [['id', 'ASC']], transaction })
  return rows.map((row) => row.definition)
}
