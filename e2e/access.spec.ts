import { createRequire } from 'node:module';
import { expect, type Page } from '@playwright/test';
import { openProject, test } from './demo';

const axePath = createRequire(import.meta.url).resolve('axe-core/axe.min.js');

/** Violations of WCAG 2.2 A and AA as axe-core finds them; only of colours, where nothing else is new. */
async function violations(page: Page, what: 'all' | 'colours alone' = 'all', within = 'html'): Promise<string[]> {
  // A colour on its way from disabled to enabled is no colour to judge.
  await page.evaluate(() =>
    Promise.race([Promise.all(document.getAnimations().map((a) => a.finished.catch(() => null))), new Promise((r) => setTimeout(r, 3000))]),
  );
  await page.addScriptTag({ path: axePath });
  const rules = what === 'all' ? ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] : ['color-contrast'];
  return page.evaluate(
    async ([runOnly, where]) => {
      const { axe } = window as unknown as {
        axe: { run: (within: string, options: object) => Promise<{ violations: { id: string; nodes: { html: string }[] }[] }> };
      };
      const result = await axe.run(where, { runOnly });
      return result.violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 400)}`));
    },
    [rules, within] as const,
  );
}

/** What stands over the page: lists that were opened, dialogs. */
const OVER = '.MuiPopover-root, .MuiDialog-root, [role="dialog"], [role="listbox"]';

/** Opens every list of the page that is shown, one after the other, and finds what is wrong with each. */
async function listsOf(page: Page, what: 'all' | 'colours alone'): Promise<{ opened: number; wrong: string[] }> {
  const lists = page.locator('main, aside').getByRole('combobox');
  const wrong: string[] = [];
  let opened = 0;
  for (let i = 0; i < (await lists.count()); i++) {
    const list = lists.nth(i);
    if (!(await list.isVisible()) || !(await list.isEnabled())) continue;
    await list.click();
    await expect(page.getByRole('listbox')).toBeVisible();
    wrong.push(...(await violations(page, what, OVER)));
    opened++;
    await page.keyboard.press('Escape');
    await expect(page.getByRole('listbox')).toHaveCount(0);
  }
  return { opened, wrong };
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

/** Pages of a station that have lists of their own, and how they are opened. */
const LISTED: readonly (readonly [station: string, pages: readonly string[], fewest: number])[] = [
  ['Cycle', ['Channels', 'Styles', 'Loop', 'Compare'], 6],
  ['Travel', ['travel', 'feet', 'cut', 'layers', 'gait', 'joints', 'files'], 10],
  ['Steps', ['rules', 'course', 'ground', 'tracks', 'prints'], 8],
  ['Directions', [], 1],
  ['Hand-over', [], 2],
];

for (const [station, pages, fewest] of LISTED)
  test(`${station}: every page and every list that opens, without a violation in either theme`, async ({ page }) => {
    test.setTimeout(300_000);
    const id = await openProject(page, `Open things of ${station}`);
    if (station === 'Steps') {
      await page.keyboard.type('/stairs');
      await page.keyboard.press('Enter');
      await expect(page.locator('[data-ground="Stairs"]')).toBeVisible();
      for (const said of ['/bystander', '/obstacle', '/bend', '/into run']) {
        await page.keyboard.type(said);
        await page.keyboard.press('Enter');
      }
    }
    await page.goto(`/p/${id}/${station.toLowerCase()}`);
    await page.waitForTimeout(800);
    if (station === 'Travel') {
      await page.getByRole('button', { name: 'Made here…' }).click();
      expect(await violations(page, 'all', OVER), 'what is made here').toEqual([]);
      await page.getByRole('menuitem').first().click();
      await expect(page.getByTestId('clip-chart')).toBeVisible();
    }
    let opened = 0;
    for (const name of pages.length > 0 ? pages : [null]) {
      if (name)
        await page
          .getByRole('tab', { name, exact: true })
          .or(page.getByRole('button', { name, exact: true }))
          .first()
          .click();
      await page.waitForTimeout(600);
      for (const theme of ['dark', 'light']) {
        const what = theme === 'dark' ? 'all' : 'colours alone';
        expect.soft(await violations(page, what), `${name ?? station} before ${theme}`).toEqual([]);
        const lists = await listsOf(page, what);
        expect.soft(lists.wrong, `lists of ${name ?? station} before ${theme}`).toEqual([]);
        opened += lists.opened;
        await page.getByRole('button', { name: `Use the ${theme} theme` }).click();
        await page.waitForTimeout(300);
      }
    }
    expect(opened).toBeGreaterThanOrEqual(2 * fewest);
  });

test('dialogs have no violation in either theme', async ({ page }) => {
  test.setTimeout(120_000);
  await openProject(page, 'Dialogs');
  for (const theme of ['dark', 'light']) {
    await page.getByRole('button', { name: 'Keys' }).click();
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
    expect(await violations(page, 'all', OVER), 'keys').toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByTestId('slide-gauge').click();
    await expect(page.locator('.MuiPopover-root')).toBeVisible();
    expect(await violations(page, 'all', OVER), 'gauge').toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.locator('.MuiPopover-root')).toHaveCount(0);
    await page.keyboard.type('/stride');
    await expect(page.getByRole('option').first()).toBeVisible();
    expect(await violations(page), 'what is said').toEqual([]);
    await page.keyboard.type(' 99');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog', { name: 'Say what to do' })).toContainText('at most');
    expect(await violations(page), 'what is refused').toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Save as…' }).click();
    expect(await violations(page), 'a name asked for').toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: `Use the ${theme} theme` }).click();
    await page.waitForTimeout(300);
  }
});
