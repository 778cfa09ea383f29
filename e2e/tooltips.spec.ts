import { expect } from '@playwright/test';
import { openProject, test } from './demo';

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
const overlap = (a: Box, b: Box) =>
  Math.max(0, Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x)) * Math.max(0, Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y));

test('a tooltip never lies over what is pointed at nor over its row’s controls, and tooltips never pile up', async ({ page }) => {
  await openProject(page, 'Tooltips');
  const values = page.getByRole('region', { name: 'Values' });
  const labels = values.locator('[data-strip] > span:first-child > span');
  const tooltips = page.getByRole('tooltip');
  // Slowly, as one who reads; up and down, near the panel's edges too.
  for (const at of [0, 3, 5, 1]) {
    const label = labels.nth(at);
    await label.hover();
    await expect(tooltips).toHaveCount(1);
    await page.waitForTimeout(300);
    const lies = (await tooltips.boundingBox())!;
    expect(overlap(lies, (await label.boundingBox())!)).toBe(0);
    const strip = label.locator('xpath=ancestor::*[@data-strip]');
    for (const control of [strip.getByRole('slider'), strip.getByRole('textbox')]) expect(overlap(lies, (await control.boundingBox())!)).toBe(0);
    expect(lies.x).toBeGreaterThanOrEqual(0);
    expect(lies.x + lies.width).toBeLessThanOrEqual(1280);
  }
  // Quickly, on the way to something else: never two at once, and none is left behind.
  let most = 0;
  for (const at of [0, 1, 2, 3, 4, 5, 4, 3, 2]) {
    await labels.nth(at).hover();
    for (let i = 0; i < 3; i++) {
      most = Math.max(most, await tooltips.count());
      await page.waitForTimeout(60);
    }
  }
  expect(most).toBeLessThanOrEqual(1);
  await page.mouse.move(300, 300);
  await expect(tooltips).toHaveCount(0);
});
