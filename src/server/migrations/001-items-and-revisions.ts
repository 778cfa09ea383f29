import { DataTypes } from 'sequelize';
import type { Migration } from './migration';

const ITEM_TABLES = ['projects', 'bodies', 'gaits', 'plans', 'sets', 'assets'];

export const itemsAndRevisions: Migration = {
  name: '001-items-and-revisions',
  up: async (q) => {
    for (const table of ITEM_TABLES) {
      await q.createTable(table, {
        id: { type: DataTypes.STRING(36), primaryKey: true },
        projectId:
          table === 'projects'
            ? { type: DataTypes.STRING(36), allowNull: false }
            : { type: DataTypes.STRING(36), allowNull: false, references: { model: 'projects', key: 'id' }, onDelete: 'CASCADE' },
        position: { type: DataTypes.INTEGER, allowNull: false },
        name: { type: DataTypes.STRING(80), allowNull: false },
        spec: { type: DataTypes.JSON, allowNull: false },
        version: { type: DataTypes.INTEGER, allowNull: false },
        createdAt: { type: DataTypes.DATE(3), allowNull: false },
        updatedAt: { type: DataTypes.DATE(3), allowNull: false },
        deletedAt: { type: DataTypes.DATE(3), allowNull: true },
      });
    }
    await q.createTable('revisions', {
      id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      kind: { type: DataTypes.STRING(16), allowNull: false },
      itemId: { type: DataTypes.STRING(36), allowNull: false },
      projectId: { type: DataTypes.STRING(36), allowNull: false, references: { model: 'projects', key: 'id' }, onDelete: 'CASCADE' },
      version: { type: DataTypes.INTEGER, allowNull: false },
      spec: { type: DataTypes.JSON, allowNull: false },
      createdAt: { type: DataTypes.DATE(3), allowNull: false },
    });
    await q.sequelize.query('CREATE UNIQUE INDEX IF NOT EXISTS revisions_item_version ON revisions (itemId, version)');
  },
};
