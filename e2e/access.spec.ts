import { createRequire } from 'node:module';
import { expect, test, type Page } from '@playwright/test';
import { openProject } from './demo';

const axePath = createRequire(import.meta.url).resolve('axe-core/axe.min.js');

/** Violations of WCAG 2.2 A and AA as axe-core finds them. */
async function violations(page: Page): Promise<string[]> {
  await page.addScriptTag({ path: axePath });
  return page.evaluate(async () => {
    const { axe } = window as unknown as { axe: { run: (options: object) => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> } };
    const result = await axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] });
    return result.violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)}`));
  });
}

for (const station of ['cycle', 'steps', 'directions', 'hand-over'])
  test(`${station}: no accessibility violation in either theme, nothing to scroll but the panel at 1280 × 800`, async ({ page }) => {
    await openProject(page, 'Access', station);
    await page.waitForTimeout(500);
    expect(await violations(page)).toEqual([]);
    await page.getByRole('button', { name: 'Use the dark theme' }).click();
    await page.waitForTimeout(300);
    expect(await violations(page)).toEqual([]);
    const overflow = await page.evaluate(() => [document.documentElement.scrollWidth - innerWidth, document.documentElement.scrollHeight - innerHeight]);
    expect(Math.max(...overflow)).toBeLessThanOrEqual(0);
  });

test('at 1024 wide the walkway gives way and nothing covers the panel', async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 720 });
  await openProject(page, 'Narrow');
  const edges = await page.evaluate(() => {
    const right = Math.max(...[...document.querySelectorAll('main *')].map((e) => e.getBoundingClientRect().right));
    return [right, document.querySelector('aside')!.getBoundingClientRect().left, document.documentElement.scrollWidth];
  });
  expect(edges[0]).toBeLessThanOrEqual(edges[1]! + 1);
  expect(edges[2]).toBeLessThanOrEqual(1024);
});

test('the projects page has no violation', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'The tidal post' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
});
