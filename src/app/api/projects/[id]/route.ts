import { database } from '@/server/database';
import { answer } from '@/server/problem';
import { deleteProject, loadProject } from '@/server/projects';

type Context = { params: Promise<{ id: string }> };

export const GET = (_: Request, { params }: Context) => answer(async () => loadProject(database(), (await params).id));
export const DELETE = (_: Request, { params }: Context) => answer(async () => deleteProject(database(), (await params).id));
