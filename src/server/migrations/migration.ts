import type { QueryInterface } from 'sequelize';

/**
 * One step of the tables from one version to the next. MariaDB keeps no transaction over changes of tables, so each can be
 * run again after it was broken off at any point. The way back is a backup (`./nimbret export`).
 */
export interface Migration {
  readonly name: string;
  readonly up: (q: QueryInterface) => Promise<void>;
}
