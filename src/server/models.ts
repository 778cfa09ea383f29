import { DataTypes, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Model, type ModelStatic, type Sequelize } from 'sequelize';
import type { ItemKind } from '@/core/project/kinds';

/** A project as a whole: what is locked while anything in it changes, and whether it is deleted. Its name is in its item. */
export interface ProjectRow extends Model<InferAttributes<ProjectRow>, InferCreationAttributes<ProjectRow>> {
  id: string;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
  deletedAt: CreationOptional<Date | null>;
}

/** One item's spec as JSON; the project's own record is the item with the project's id. */
export interface ItemRow extends Model<InferAttributes<ItemRow>, InferCreationAttributes<ItemRow>> {
  id: string;
  projectId: string;
  kind: ItemKind;
  position: number;
  name: string;
  spec: unknown;
  version: number;
  createdAt: CreationOptional<Date>;
  updatedAt: CreationOptional<Date>;
  deletedAt: CreationOptional<Date | null>;
}

/** A saved state of an item. `token` names the save that wrote it, `keptAs` is the name under which a person keeps it. */
export interface RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  id: CreationOptional<number>;
  kind: ItemKind;
  itemId: string;
  projectId: string;
  version: number;
  spec: unknown;
  token: CreationOptional<string | null>;
  keptAs: CreationOptional<string | null>;
  removed: CreationOptional<boolean>;
  createdAt: CreationOptional<Date>;
}

export interface Models {
  readonly projects: ModelStatic<ProjectRow>;
  readonly items: ModelStatic<ItemRow>;
  readonly revisions: ModelStatic<RevisionRow>;
}

const time = DataTypes.DATE(3);

export function defineModels(sequelize: Sequelize): Models {
  const id = { type: DataTypes.STRING(36), primaryKey: true };
  const projects = sequelize.define<ProjectRow>(
    'projects',
    { id, createdAt: time, updatedAt: time, deletedAt: time },
    { tableName: 'projects', timestamps: true },
  );
  const items = sequelize.define<ItemRow>(
    'items',
    {
      id,
      projectId: DataTypes.STRING(36),
      kind: DataTypes.STRING(16),
      position: DataTypes.INTEGER,
      name: DataTypes.STRING(80),
      spec: DataTypes.JSON,
      version: DataTypes.INTEGER,
      createdAt: time,
      updatedAt: time,
      deletedAt: time,
    },
    { tableName: 'items', timestamps: true },
  );
  const revisions = sequelize.define<RevisionRow>(
    'revisions',
    {
      id: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      kind: DataTypes.STRING(16),
      itemId: DataTypes.STRING(36),
      projectId: DataTypes.STRING(36),
      version: DataTypes.INTEGER,
      spec: DataTypes.JSON,
      token: DataTypes.STRING(64),
      keptAs: DataTypes.STRING(80),
      removed: DataTypes.BOOLEAN,
      createdAt: time,
    },
    { tableName: 'revisions', timestamps: true, updatedAt: false },
  );
  return { projects, items, revisions };
}

/** A JSON column as a value: MariaDB hands it back as text. */
export const jsonOf = (column: unknown): unknown => (typeof column === 'string' ? (JSON.parse(column) as unknown) : column);
