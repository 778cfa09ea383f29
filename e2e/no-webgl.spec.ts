import { expect } from '@playwright/test';
import config from '../playwright.config';
import { feetHold, numberOf, saved, test, typeValue } from './demo';

const { launchOptions } = config.use!;
test.use({ launchOptions: { ...launchOptions, args: [...launchOptions!.args!, '--disable-3d-apis'] } });

test('without WebGL the walkway says so, and everything else works', async ({ page }) => {
  const made = await page.request.post('/api/projects', { data: { name: 'No pictures' } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/p/${id}/cycle`);
  await expect(page.getByTestId('walkway').getByRole('status')).toContainText('WebGL 2 is missing or off');
  await feetHold(page);
  await typeValue(page, 'Foot lift (cm), number', '12');
  await saved(page);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const shown = () => page.getByTestId('time').textContent();
  const before = await shown();
  await expect.poll(shown).not.toBe(before);
  await page.reload();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(12);
});
