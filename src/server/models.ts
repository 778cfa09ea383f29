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

/** A file brought in, by the SHA-256 of its bytes, which lie in parts; whole once all of them are there and make that hash. */
interface BlobRow extends Model<InferAttributes<BlobRow>, InferCreationAttributes<BlobRow>> {
  hash: string;
  mediaType: string;
  size: number;
  parts: number;
  whole: CreationOptional<boolean>;
  createdAt: CreationOptional<Date>;
}
interface BlobPartRow extends Model<InferAttributes<BlobPartRow>, InferCreationAttributes<BlobPartRow>> {
  hash: string;
  part: number;
  bytes: Buffer;
}

export interface Models {
  readonly projects: ModelStatic<ProjectRow>;
  readonly items: ModelStatic<ItemRow>;
  readonly revisions: ModelStatic<RevisionRow>;
  readonly blobs: ModelStatic<BlobRow>;
  readonly blobParts: ModelStatic<BlobPartRow>;
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
  const hash = { type: DataTypes.CHAR(64), primaryKey: true };
  const blobs = sequelize.define<BlobRow>(
    'blobs',
    {
      hash,
      mediaType: DataTypes.STRING(80),
      size: DataTypes.INTEGER,
      parts: DataTypes.INTEGER,
      whole: { type: DataTypes.BOOLEAN, defaultValue: false },
      createdAt: time,
    },
    { tableName: 'blobs', timestamps: true, updatedAt: false },
  );
  const blobParts = sequelize.define<BlobPartRow>(
    'blobParts',
    { hash, part: { type: DataTypes.INTEGER, primaryKey: true }, bytes: DataTypes.BLOB('long') },
    { tableName: 'blob_parts', timestamps: false },
  );
  return { projects, items, revisions, blobs, blobParts };
}

/** A JSON column as a value: MariaDB hands it back as text. */
export const jsonOf = (column: unknown): unknown => (typeof column === 'string' ? (JSON.parse(column) as unknown) : column);
