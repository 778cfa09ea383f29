import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

/** Table of each kind before there was one for all. */
const TABLES = { body: 'bodies', gait: 'gaits', plan: 'plans', set: 'sets', asset: 'assets' } as const;

const time = { type: DataTypes.DATE(3), allowNull: false };

/**
 * One `items` table with a `kind` column in place of one table a kind; `projects` keeps what belongs to the whole. Revisions
 * know the save that wrote them and the name a person keeps them under. `blobs` is for files brought in, by content hash.
 */
export const oneItemsTable: Migration = {
  name: '002-one-items-table',
  up: async (q) => {
    const run = (sql: string) => q.sequelize.query(sql);
    const has = (table: string) => q.tableExists(table);
    if (!(await has('items'))) {
      await q.createTable('items', {
        id: { type: DataTypes.STRING(36), primaryKey: true },
        projectId: { type: DataTypes.STRING(36), allowNull: false, references: { model: 'projects', key: 'id' }, onDelete: 'CASCADE' },
        kind: { type: DataTypes.STRING(16), allowNull: false },
        position: { type: DataTypes.INTEGER, allowNull: false },
        name: { type: DataTypes.STRING(80), allowNull: false },
        spec: { type: DataTypes.JSON, allowNull: false },
        version: { type: DataTypes.INTEGER, allowNull: false },
        createdAt: time,
        updatedAt: time,
        deletedAt: { type: DataTypes.DATE(3), allowNull: true },
      });
    }
    await run('CREATE INDEX IF NOT EXISTS items_project_kind ON items (projectId, kind, position)');
    // Each table is emptied into `items` before it goes, so a second run finds either the table or its rows.
    const columns = 'id, projectId, position, name, spec, version, createdAt, updatedAt, deletedAt';
    for (const [kind, table] of Object.entries(TABLES)) {
      if (!(await has(table))) continue;
      await run(`INSERT IGNORE INTO items (kind, ${columns}) SELECT '${kind}', ${columns} FROM ${table}`);
      await q.dropTable(table);
    }
    if ('spec' in (await q.describeTable('projects'))) {
      await run(
        `INSERT IGNORE INTO items (kind, id, projectId, position, name, spec, version, createdAt, updatedAt)
         SELECT 'project', id, id, 0, name, spec, version, createdAt, updatedAt FROM projects`,
      );
      await run('ALTER TABLE projects DROP COLUMN projectId, DROP COLUMN position, DROP COLUMN name, DROP COLUMN version, DROP COLUMN spec');
    }
    await run(
      `ALTER TABLE revisions ADD COLUMN IF NOT EXISTS token VARCHAR(64) NULL, ADD COLUMN IF NOT EXISTS keptAs VARCHAR(80) NULL,
       ADD COLUMN IF NOT EXISTS removed BOOLEAN NOT NULL DEFAULT FALSE`,
    );
    if (!(await has('blobs')))
      await q.createTable('blobs', {
        hash: { type: DataTypes.CHAR(64), primaryKey: true },
        mediaType: { type: DataTypes.STRING(80), allowNull: false },
        size: { type: DataTypes.INTEGER, allowNull: false },
        bytes: { type: DataTypes.BLOB('long'), allowNull: false },
        createdAt: time,
      });
  },
};
