import { createRequire } from 'node:module';
import { expect, type Page } from '@playwright/test';
import { openProject, test } from './demo';

const axePath = createRequire(import.meta.url).resolve('axe-core/axe.min.js');

/** Violations of WCAG 2.2 A and AA as axe-core finds them; only of colours, where nothing else is new. */
async function violations(page: Page, what: 'all' | 'colours alone' = 'all'): Promise<string[]> {
  // A colour on its way from disabled to enabled is no colour to judge.
  await page.evaluate(() =>
    Promise.race([Promise.all(document.getAnimations().map((a) => a.finished.catch(() => null))), new Promise((r) => setTimeout(r, 3000))]),
  );
  await page.addScriptTag({ path: axePath });
  const rules = what === 'all' ? ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] : ['color-contrast'];
  return page.evaluate(async (runOnly) => {
    const { axe } = window as unknown as { axe: { run: (options: object) => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> } };
    const result = await axe.run({ runOnly });
    return result.violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 400)}`));
  }, rules);
}

test('no station has an accessibility violation in either theme, nor anything to scroll but the panel at 1280 × 800', async ({ page }) => {
  await openProject(page, 'Access');
  for (const station of ['Cycle', 'Steps', 'Directions', 'Hand-over']) {
    await page.getByRole('link', { name: new RegExp(station) }).click();
    await expect(page.getByRole('link', { name: new RegExp(station) })).toHaveAttribute('aria-current', 'page');
    await page.waitForTimeout(700);
    // What is being measured anew is paler until it is there.
    await expect(page.locator('aside [aria-busy="true"]')).toHaveCount(0);
    await expect(page.getByTestId('slide-gauge')).toContainText('feet hold');
    for (const theme of ['dark', 'light']) {
      expect(await violations(page, theme === 'dark' ? 'all' : 'colours alone'), `${station} before ${theme}`).toEqual([]);
      await page.getByRole('button', { name: `Use the ${theme} theme` }).click();
      await page.waitForTimeout(300);
    }
    const overflow = await page.evaluate(() => [document.documentElement.scrollWidth - innerWidth, document.documentElement.scrollHeight - innerHeight]);
    expect(Math.max(...overflow)).toBeLessThanOrEqual(0);
  }
});

const PAGES = ['Channels', 'Styles', 'Loop', 'Compare'] as const;
test('cycle, every page: no violation in either theme, and every control reached by keyboard', async ({ page }) => {
  test.setTimeout(180_000);
  await openProject(page, 'Access of the cycle');
  for (const name of PAGES) {
    await page.getByRole('group', { name: 'Pages of the cycle' }).getByRole('button', { name, exact: true }).click();
    await page.waitForTimeout(800);
    if (name === 'Channels') {
      const closed = page.locator('aside button[aria-expanded="false"]:has(h3)');
      for (let left = await closed.count(); left > 0; left--) {
        await closed.first().click();
        await expect(closed).toHaveCount(left - 1);
      }
      await page.getByRole('button', { name: 'Curve of Rise' }).click();
      await page.getByRole('button', { name: 'Split left and right Foot lift' }).click();
      await expect(page.getByTestId('curve-editor')).toBeVisible();
    }
    if (name === 'Styles') await page.getByRole('button', { name: 'What Weight changes' }).click();
    if (name === 'Compare')
      await page
        .getByRole('button', { name: /^compare with state/ })
        .last()
        .click();
    await page.waitForTimeout(400);
    for (const theme of ['dark', 'light']) {
      expect(await violations(page, theme === 'dark' ? 'all' : 'colours alone'), `${name} before ${theme}`).toEqual([]);
      await page.getByRole('button', { name: `Use the ${theme} theme` }).click();
      await page.waitForTimeout(300);
    }
    // Whatever can be pressed or dragged takes the focus by Tab.
    const unreachable = await page.evaluate(() =>
      [
        ...document.querySelectorAll<HTMLElement | SVGElement>(
          'aside button, aside [role="slider"], aside [role="combobox"], aside input, aside [style*="grab"]',
        ),
      ]
        .filter((e) => !(e as HTMLButtonElement).disabled && !e.closest('[hidden], [aria-hidden="true"]') && (e as HTMLInputElement).type !== 'file')
        // In a group of toggles Tab takes one and the arrow keys go on.
        .filter((e) => getComputedStyle(e).visibility !== 'hidden' && e.tabIndex < 0 && !e.closest('[role="group"]')?.querySelector('[tabindex="0"]'))
        .map((e) => e.outerHTML.slice(0, 120)),
    );
    expect(unreachable, name).toEqual([]);
  }
  const pages = page.getByRole('group', { name: 'Pages of the cycle' }).getByRole('button');
  await pages.first().focus();
  await page.keyboard.press('ArrowRight');
  await expect(pages.nth(1)).toBeFocused();
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

for (const [width, height] of [
  [853, 533],
  [1024, 700],
] as const)
  test(`at ${width} × ${height} everything can be reached and nothing lies outside`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openProject(page, `Small ${width}`);
    const opener = page.getByRole('button', { name: 'Panel' });
    if (await opener.isVisible()) await opener.click();
    await expect(page.getByTestId('dial')).toBeVisible();
    for (const station of ['Cycle', 'Steps', 'Directions', 'Hand-over']) {
      await page.getByRole('link', { name: new RegExp(station) }).click();
      await expect(page.getByRole('link', { name: new RegExp(station) })).toHaveAttribute('aria-current', 'page');
      await page.waitForTimeout(600);
      const outside = await page.evaluate(() => {
        const scrolls = (el: Element | null): boolean => !!el && (/(auto|scroll)/.test(getComputedStyle(el).overflowY) || scrolls(el.parentElement));
        return [...document.querySelectorAll('button, a, input, [role="slider"], [role="combobox"]')]
          .filter((el) => el.checkVisibility({ checkOpacity: false, checkVisibilityCSS: true }))
          .map((el) => ({ el, box: el.getBoundingClientRect() }))
          .filter(
            ({ el, box }) => box.width > 1 && (box.left < -1 || box.right > innerWidth + 1 || (!scrolls(el) && (box.top < -1 || box.bottom > innerHeight + 1))),
          )
          .map(({ el }) => (el.getAttribute('aria-label') ?? el.textContent ?? el.tagName).slice(0, 60));
      });
      expect(outside, station).toEqual([]);
      expect((await page.getByTestId('walkway').boundingBox())!.height, station).toBeGreaterThanOrEqual(240);
    }
  });

test('every control shows that it has the focus, in both themes', async ({ page }) => {
  await openProject(page, 'Focus');
  for (const theme of ['light', 'dark']) {
    if (theme === 'dark') await page.getByRole('button', { name: 'Use the dark theme' }).click();
    await page.locator('body').click({ position: { x: 640, y: 400 } });
    const bare: string[] = [];
    for (let i = 0; i < 60; i++) {
      await page.keyboard.press('Tab');
      const found = await page.evaluate(() => {
        const el = document.activeElement!;
        // A control is seen by its own outline, by that of what holds it, or of the part in it that is drawn.
        const near = [el, el.parentElement!, el.parentElement!.parentElement!, ...el.querySelectorAll('*')];
        const seen =
          near.some((n) => getComputedStyle(n).outlineStyle !== 'none' && parseFloat(getComputedStyle(n).outlineWidth) >= 1) ||
          near.some((n) => getComputedStyle(n).filter.includes('drop-shadow')) ||
          [...el.parentElement!.querySelectorAll('*')].some((n) => getComputedStyle(n).outlineStyle === 'solid');
        return { seen, name: el.getAttribute('aria-label') ?? el.textContent!.slice(0, 40) };
      });
      if (!found.seen) bare.push(found.name);
    }
    expect(bare, theme).toEqual([]);
  }
});

test('the projects page has no violation', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'The tidal post' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
});
