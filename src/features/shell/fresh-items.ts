import type { Item } from '@/core/project/kinds';

/** One text for the versions of all items. */
export const versionsOf = (items: readonly Item[]): string => items.map((i) => `${i.id}:${i.version}`).join(' ');

/** The project's items as saved now, where they differ from those given; null where they are the same or not to be had. */
export async function freshItems(items: readonly Item[]): Promise<Item[] | null> {
  try {
    const response = await fetch(`/api/projects/${items[0]!.id}`, { cache: 'no-store' });
    if (!response.ok) return null;
    const fresh = (await response.json()) as Item[];
    return versionsOf(fresh) === versionsOf(items) ? null : fresh;
  } catch {
    return null;
  }
}
