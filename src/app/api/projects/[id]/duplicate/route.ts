import { database } from '@/server/database';
import { answer } from '@/server/problem';
import { duplicateProject } from '@/server/projects';

export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) => answer(async () => duplicateProject(database(), (await params).id));
