import { DataTypes, type QueryInterface } from 'sequelize'

export interface Migration {
  readonly name: string
  readonly up: (query: QueryInterface) => Promise<void>
  readonly down: (query: QueryInterface) => Promise<void>
}

export const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true }
export const revision = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 }
export const int = { type: DataTypes.INTEGER, allowNull: false }
export const flag = { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false }
export const json = { type: DataTypes.JSON, allowNull: false }
export const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false })
export const stamps = {
  created_at: { type: DataTypes.DATE(3), allowNull: false },
  updated_at: { type: DataTypes.DATE(3), allowNull: false },
}
export const refers = (table: string, onDelete: 'CASCADE' | 'RESTRICT' | 'SET NULL') => ({
  type: DataTypes.INTEGER,
  allowNull: onDelete === 'SET NULL',
  references: { model: table, key: 'id' },
  onDelete,
})
