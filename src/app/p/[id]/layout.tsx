import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { Workspace } from '@/features/shell/workspace';
import { database } from '@/server/database';
import { Problem } from '@/server/problem';
import { openProject } from '@/server/projects';

export const dynamic = 'force-dynamic';

export default async function ProjectLayout({ params }: { params: Promise<{ id: string }>; children: ReactNode }) {
  const { id } = await params;
  const { items, broken } = await openProject(database(), id).catch((error: unknown) => {
    if (error instanceof Problem && error.status === 404) notFound();
    throw error;
  });
  // The workspace reads the station from the address, so that changing it keeps the walkway.
  return <Workspace key={id} items={items} broken={broken} />;
}
