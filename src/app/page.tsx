import { ProjectsPage } from '@/features/projects/projects-page';
import { database } from '@/server/database';
import { listProjects } from '@/server/projects';

export const dynamic = 'force-dynamic';

export default async function Home() {
  return <ProjectsPage initial={await listProjects(database())} />;
}
