import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { test as base, expect, type Page } from '@playwright/test';

/** A test at whose end no window of its browser may have raised an error: what React cannot hydrate is one, too. */
export const test = base.extend<{ soundPages: void }>({
  soundPages: [
    async ({ context }, use) => {
      const errors: string[] = [];
      context.on('weberror', (e) => errors.push(e.error().message));
      await use();
      expect(errors, 'errors raised in the pages').toEqual([]);
    },
    { auto: true },
  ],
});

/** Makes a project of its own for a test, so that tests do not meet, and opens a station of it. */
export async function openProject(page: Page, name: string, station = 'cycle'): Promise<string> {
  const made = await page.request.post('/api/projects', { data: { name } });
  const { id } = (await made.json()) as { id: string };
  await openStation(page, id, station);
  return id;
}

export async function openStation(page: Page, id: string, station: string): Promise<void> {
  await page.goto(`/p/${id}/${station}`);
  await expect(page.getByTestId('walkway').locator('canvas[data-engine]')).toBeVisible();
  await feetHold(page);
}

/** Sets a strip's number by typing it. */
export async function typeValue(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByRole('textbox', { name: label, exact: true });
  await field.fill(value);
  await field.press('Enter');
}

export const numberOf = (page: Page, label: string): Promise<number> => page.getByRole('textbox', { name: label, exact: true }).inputValue().then(Number);

export const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');

export const feetHold = (page: Page) => expect(page.getByTestId('slide-gauge')).toContainText('feet hold');

export const undo = (page: Page) => page.getByRole('button', { name: 'Undo' }).click();

/** Pauses and puts the playhead at a part of the motion. */
export async function holdAt(page: Page, part: number): Promise<void> {
  const pause = page.getByRole('button', { name: 'Pause' });
  if (await pause.isVisible()) await pause.click();
  await page.getByLabel('Playhead').fill(String(part));
  await page.waitForTimeout(400);
}

/** What the walkway shows: a digest of the canvas's own pixels. */
export async function picture(page: Page): Promise<string> {
  const url = await page
    .getByTestId('walkway')
    .locator('canvas[data-engine]')
    .evaluate((c: HTMLCanvasElement) => c.toDataURL());
  return createHash('sha1').update(url).digest('hex');
}

/** The picture once nothing moves any more: the sole view's camera takes a moment to come to rest. */
export async function stillPicture(page: Page): Promise<string> {
  await expect(page.getByTestId('walkway').locator('canvas[data-engine]')).toHaveAttribute('data-quality', /^(at rest|0)$/);
  let before = '';
  for (let now = await picture(page); now !== before; now = await picture(page)) {
    before = now;
    await page.waitForTimeout(350);
  }
  return before;
}

/** Chooses nothing of what the Hand-over offers. */
export async function chooseNothing(page: Page): Promise<void> {
  const all = page.getByRole('checkbox', { name: 'all', exact: true });
  await all.check();
  await all.uncheck();
  await expect(page.getByText(/^0 of \d+ chosen$/)).toBeVisible();
}

/** The recording with so many rows of Debian's package assimp-testmodels. */
export function recorded(rows: number): string {
  return execFileSync('dpkg', ['-L', 'assimp-testmodels'], { encoding: 'utf8' })
    .split('\n')
    .filter((p) => p.endsWith('.bvh'))
    .find((p) => new RegExp(`Frames:\\s+${rows}\\b`).test(readFileSync(p, 'utf8')))!;
}
