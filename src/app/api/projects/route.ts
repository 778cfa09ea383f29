import { z } from 'zod';
import { database } from '@/server/database';
import { answer } from '@/server/problem';
import { createProject, listProjects } from '@/server/projects';
import { readJson } from '@/server/request';

export const dynamic = 'force-dynamic';

export const GET = () => answer(() => listProjects(database()));

const creation = z.strictObject({ name: z.string().trim().min(1).max(80) });
export const POST = (request: Request) => answer(async () => createProject(database(), (await readJson(request, creation)).name));
