import { DataTypes, type Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type ModelStatic, type Sequelize } from 'sequelize';
import type { ItemKind } from '@/core/project/items';

/** A row that holds one item's spec as JSON. */
export interface ItemRow extends Model<InferAttributes<ItemRow>, InferCreationAttributes<ItemRow>> {
  id: string;
  projectId: string;
  position: number;
  name: string;
  spec: unknown;
  version: number;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
  deletedAt: CreationOptional<Date | null>;
}

/** A saved state of an item. */
interface RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  id: CreationOptional<number>;
  kind: ItemKind;
  itemId: string;
  projectId: string;
  version: number;
  spec: unknown;
  createdAt: CreationOptional<Date>;
}

const TABLES: { readonly [K in ItemKind]: string } = { project: 'projects', body: 'bodies', gait: 'gaits', plan: 'plans', set: 'sets', asset: 'assets' };

export interface Models {
  readonly items: { readonly [K in ItemKind]: ModelStatic<ItemRow> };
  readonly revisions: ModelStatic<RevisionRow>;
}

export function defineModels(sequelize: Sequelize): Models {
  const itemModel = (tableName: string) =>
    sequelize.define<ItemRow>(
      tableName,
      {
        id: { type: DataTypes.STRING(36), primaryKey: true },
        projectId: DataTypes.STRING(36),
        position: DataTypes.INTEGER,
        name: DataTypes.STRING(80),
        spec: DataTypes.JSON,
        version: DataTypes.INTEGER,
        createdAt: DataTypes.DATE(3),
        updatedAt: DataTypes.DATE(3),
        deletedAt: DataTypes.DATE(3),
      },
      { tableName, timestamps: true },
    );
  const items = Object.fromEntries(Object.entries(TABLES).map(([kind, table]) => [kind, itemModel(table)])) as unknown as Models['items'];
  const revisions = sequelize.define<RevisionRow>(
    'revisions',
    {
      id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      kind: DataTypes.STRING(16),
      itemId: DataTypes.STRING(36),
      projectId: DataTypes.STRING(36),
      version: DataTypes.INTEGER,
      spec: DataTypes.JSON,
      createdAt: DataTypes.DATE(3),
    },
    { tableName: 'revisions', timestamps: true, updatedAt: false },
  );
  return { items, revisions };
}
