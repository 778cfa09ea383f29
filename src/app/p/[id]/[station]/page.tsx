import { notFound } from 'next/navigation';
import { isStation } from '@/features/shell/stations';

export default async function StationPage({ params }: { params: Promise<{ station: string }> }) {
  if (!isStation((await params).station)) notFound();
  return null;
}
