import { database } from '@/server/database';
import { answer } from '@/server/problem';
import { restoreProject } from '@/server/projects';

export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) => answer(async () => restoreProject(database(), (await params).id));
