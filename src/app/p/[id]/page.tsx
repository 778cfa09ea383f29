import { redirect } from 'next/navigation';

export default async function ProjectPage({ params }: { params: Promise<{ id: string }> }) {
  redirect(`/p/${(await params).id}/cycle`);
}
