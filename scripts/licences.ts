import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Lists in the README, between its two marks, under which licence each package is that the application runs with. */
const root = join(import.meta.dirname, '..');
const MARKS = ['<!-- licences -->', '<!-- end of licences -->'] as const;

interface Locked {
  readonly packages: Readonly<Record<string, { readonly version?: string; readonly license?: string; readonly dev?: boolean; readonly optional?: boolean }>>;
}
interface Manifest {
  readonly dependencies: Readonly<Record<string, string>>;
  readonly license?: string;
}
const read = <T>(path: string): T => JSON.parse(readFileSync(join(root, path), 'utf8')) as T;

const { packages } = read<Locked>('package-lock.json');
const direct = Object.keys(read<Manifest>('package.json').dependencies).sort();
const licenceOf = (name: string): string =>
  packages[`node_modules/${name}`]?.license ?? read<Manifest>(`node_modules/${name}/package.json`).license ?? 'not told';

const indirect = new Map<string, number>();
for (const [path, { license, dev, optional }] of Object.entries(packages)) {
  const name = path.replace(/^.*node_modules\//, '');
  if (path === '' || dev || optional || direct.includes(name)) continue;
  indirect.set(license ?? 'not told', (indirect.get(license ?? 'not told') ?? 0) + 1);
}
const lines = [
  '| package | version | licence |',
  '| --- | --- | --- |',
  ...direct.map((name) => `| ${name} | ${packages[`node_modules/${name}`]?.version ?? ''} | ${licenceOf(name)} |`),
  '',
  `What these need in turn: ${[...indirect]
    .sort((a, b) => b[1] - a[1])
    .map(([licence, n]) => `${n} under ${licence}`)
    .join(', ')}.`,
];

const readme = readFileSync(join(root, 'README.md'), 'utf8');
const [from, to] = MARKS.map((m) => readme.indexOf(m)) as [number, number];
if (from < 0 || to < from) throw new Error(`README.md must hold ${MARKS.join(' and ')}`);
writeFileSync(join(root, 'README.md'), `${readme.slice(0, from + MARKS[0].length)}\n\n${lines.join('\n')}\n\n${readme.slice(to)}`);
