import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';

/** Bytes of script (gzip) that the first load of the Cycle station needs, and the framework's part; null without a build. */
export function firstLoadBytes(root: string): { station: number; framework: number } | null {
  const next = join(root, '.next');
  const manifest = join(next, 'server/app/p/[id]/[station]/page_client-reference-manifest.js');
  if (!existsSync(manifest)) return null;
  const text = readFileSync(manifest, 'utf8');
  const { entryJSFiles } = JSON.parse(text.slice(text.indexOf('] = ') + 4).replace(/;\s*$/, '')) as { entryJSFiles: Record<string, string[]> };
  const { rootMainFiles } = JSON.parse(readFileSync(join(next, 'build-manifest.json'), 'utf8')) as { rootMainFiles: string[] };
  const size = (files: Iterable<string>) =>
    [...new Set(files)].reduce((sum, f) => sum + gzipSync(readFileSync(join(next, decodeURIComponent(f)))).byteLength, 0);
  const pages = Object.entries(entryJSFiles).filter(([name]) => /app\/(layout|p\/\[id\]\/(layout|\[station\]\/page))$/.test(name));
  return { station: size([...rootMainFiles, ...pages.flatMap(([, files]) => files)]), framework: size(rootMainFiles) };
}
