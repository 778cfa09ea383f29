import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Metadata } from 'next';
import { MeasuresPage } from '@/features/measures/measures-page';

export const metadata: Metadata = { title: 'What Nimbret measures' };

/** What each number means, as docs/measures.md defines it. */
export default async function Measures() {
  return <MeasuresPage text={await readFile(join(process.cwd(), 'docs', 'measures.md'), 'utf8')} />;
}
