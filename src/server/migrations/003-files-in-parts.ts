import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

/** Files brought in lie in parts, so that neither a request nor a row ever holds a whole one. No earlier version kept any. */
export const filesInParts: Migration = {
  name: '003-files-in-parts',
  up: async (q) => {
    await q.sequelize.query(
      'ALTER TABLE blobs DROP COLUMN IF EXISTS bytes, ADD COLUMN IF NOT EXISTS parts INT NOT NULL DEFAULT 1, ADD COLUMN IF NOT EXISTS whole BOOLEAN NOT NULL DEFAULT FALSE',
    );
    if (!(await q.tableExists('blob_parts')))
      await q.createTable('blob_parts', {
        hash: { type: DataTypes.CHAR(64), primaryKey: true, references: { model: 'blobs', key: 'hash' }, onDelete: 'CASCADE' },
        part: { type: DataTypes.INTEGER, primaryKey: true },
        bytes: { type: DataTypes.BLOB('long'), allowNull: false },
      });
  },
};
