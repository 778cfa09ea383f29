import type { Page } from '@playwright/test';

/** What React rendered: a component by its name (as the build keeps it) and by the part of the page it draws. */
export interface Rendered {
  readonly component: string;
  readonly part: string;
}

/**
 * Counts what React renders, by the hook through which its own profiler hears of commits: a component was rendered where its
 * fibre says that it did work. To be called before the page is opened.
 */
export async function countRenders(page: Page): Promise<void> {
  await page.addInitScript(() => {
    interface Fiber {
      readonly tag: number;
      readonly flags: number;
      readonly type: unknown;
      readonly stateNode: unknown;
      readonly child: Fiber | null;
      readonly sibling: Fiber | null;
      readonly alternate: Fiber | null;
    }
    const PERFORMED_WORK = 1;
    // Function and class components, forwarded references, memos.
    const COMPONENTS = new Set([0, 1, 11, 14, 15]);
    const HOST = 5;
    const rendered: { component: string; part: string }[] = [];
    const commits: number[] = [];
    const nameOf = (type: unknown): string => {
      const t = type as { displayName?: string; name?: string; type?: unknown; render?: unknown } | null;
      return t?.displayName ?? t?.name ?? (t?.type ? nameOf(t.type) : t?.render ? nameOf(t.render) : 'unnamed');
    };
    const elementOf = (fiber: Fiber): Element | null => {
      if (fiber.tag === HOST) return fiber.stateNode instanceof Element ? fiber.stateNode : null;
      for (let c = fiber.child; c; c = c.sibling) {
        const found = elementOf(c);
        if (found) return found;
      }
      return null;
    };
    const partOf = (fiber: Fiber): string => {
      const at = elementOf(fiber)?.closest('[data-strip], [data-testid], [data-gait], header, aside, section[aria-label], [role="group"][aria-label]');
      if (!at) return 'walkway scene';
      return at.getAttribute('data-strip') ?? at.getAttribute('data-testid') ?? at.getAttribute('data-gait') ?? at.getAttribute('aria-label') ?? at.localName;
    };
    // Only where a fibre's children are not those of the commit before was anything below it looked at.
    const walk = (next: Fiber, before: Fiber | null) => {
      if (COMPONENTS.has(next.tag) && next.flags & PERFORMED_WORK) rendered.push({ component: nameOf(next.type), part: partOf(next) });
      if (next.child === before?.child) return;
      for (let c = next.child; c; c = c.sibling) walk(c, c.alternate);
    };
    Object.assign(window, {
      nimbretRenders: { rendered, commits },
      __REACT_DEVTOOLS_GLOBAL_HOOK__: {
        supportsFiber: true,
        renderers: new Map(),
        inject: () => 1,
        onCommitFiberUnmount: () => {},
        onPostCommitFiberRoot: () => {},
        onCommitFiberRoot: (_: number, root: { current: Fiber }) => {
          commits.push(performance.now());
          walk(root.current, root.current.alternate);
        },
      },
    });
  });
}

/** What was rendered since the last asking, and in how many commits. */
export const rendersSince = (page: Page): Promise<{ rendered: Rendered[]; commits: number }> =>
  page.evaluate(() => {
    const kept = (window as unknown as { nimbretRenders: { rendered: { component: string; part: string }[]; commits: number[] } }).nimbretRenders;
    return { rendered: kept.rendered.splice(0), commits: kept.commits.splice(0).length };
  });
