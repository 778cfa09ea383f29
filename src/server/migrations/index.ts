import { itemsAndRevisions } from './001-items-and-revisions';
import { oneItemsTable } from './002-one-items-table';
import { filesInParts } from './003-files-in-parts';
import type { Migration } from './migration';

/** All migrations in order. A landed one is never changed; a new one is added below it. */
export const MIGRATIONS: readonly Migration[] = [itemsAndRevisions, oneItemsTable, filesInParts];
