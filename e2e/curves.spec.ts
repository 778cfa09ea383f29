import { expect } from '@playwright/test';
import { feetHold, holdAt, numberOf, openProject, picture, saved, test, typeValue, undo } from './demo';

test('a channel’s curve is drawn with keys, typed, turned by its slopes, copied to another, turned over and taken back', async ({ page }) => {
  await openProject(page, 'Curves');
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await holdAt(page, 0.3);
  const before = await picture(page);
  await page.getByRole('button', { name: 'Curve of Hips turn' }).click();
  const editor = page.getByRole('group', { name: 'Curve of Hips turn' });
  const keys = editor.getByRole('slider', { name: /^Key / });
  await expect(keys).toHaveCount(2);
  await editor.scrollIntoViewIfNeeded();
  // Real units stand beside the shape; the halves go together until they are unlocked.
  await expect(editor.locator('[data-scale="1"]')).toHaveText(/°$/);
  await editor.getByRole('button', { name: 'halves opposite' }).click();
  await keys.first().focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(keys.first()).toHaveAttribute('aria-valuetext', /64\.\d percent/);
  await editor.getByRole('button', { name: 'add key' }).click();
  await expect(keys).toHaveCount(3);
  await typeValue(page, 'Hips turn: value of the key', '-1.5');
  await editor.getByRole('button', { name: 'linear' }).click();
  await expect.poll(() => picture(page)).not.toBe(before);
  await keys.nth(2).scrollIntoViewIfNeeded();
  const box = (await keys.nth(2).boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 30, box.y - 20, { steps: 3 });
  await page.mouse.up();
  const dragged = await keys.nth(2).getAttribute('aria-valuetext');
  await undo(page);
  await expect(keys.nth(2)).not.toHaveAttribute('aria-valuetext', dragged!);
  // Several keys at once, a slope typed and turned on the curve, a taller picture.
  await editor.getByRole('button', { name: 'all keys' }).click();
  const values = () => keys.evaluateAll((all) => all.map((k) => /value (-?[\d.]+)/.exec(k.getAttribute('aria-valuetext')!)![1]));
  const level = await values();
  await keys.first().focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(async () => (await values()).every((v, i) => Math.abs(Number(v) - Math.min(2, Number(level[i]) + 0.2)) < 0.011)).toBe(true);
  await undo(page);
  await keys.nth(0).click();
  await editor.getByRole('button', { name: 'smooth' }).click();
  await typeValue(page, 'Hips turn: slope at the key, amounts a stride', '5');
  const arm = editor.getByRole('slider', { name: 'Slope of the key of Hips turn' });
  await expect(arm).toHaveAttribute('aria-valuenow', '5');
  await arm.scrollIntoViewIfNeeded();
  const end = (await arm.boundingBox())!;
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2);
  await page.mouse.down();
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2 + 25, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Number(await arm.getAttribute('aria-valuenow'))).toBeLessThan(4);
  const low = (await editor.locator('svg').first().boundingBox())!.height;
  await editor.getByRole('button', { name: 'taller' }).click();
  expect((await editor.locator('svg').first().boundingBox())!.height).toBeGreaterThan(low * 1.8);
  await editor.getByRole('button', { name: 'copy' }).click();
  await page.getByRole('button', { name: 'Curve of Hips list' }).click();
  const list = page.getByRole('group', { name: 'Curve of Hips list' });
  await list.getByRole('button', { name: 'paste' }).click();
  await expect(list.getByRole('slider', { name: /^Key / })).toHaveCount(3);
  await list.getByRole('button', { name: '2nd half: opposite' }).click();
  await expect(list.getByRole('button', { name: 'halves opposite' })).toBeVisible();
  await list.getByRole('slider', { name: /^Key / }).first().focus();
  await page.keyboard.press('Delete');
  await list.getByRole('button', { name: 'plain wave' }).click();
  await expect(list.getByRole('button', { name: 'plain wave' })).toBeDisabled();
  await feetHold(page);
});

test('sides are split, and stay so', async ({ page }) => {
  await openProject(page, 'Sides');
  await page.getByRole('button', { name: 'Split left and right Foot lift' }).click();
  await typeValue(page, 'Foot lift, right (cm), number', '14');
  await expect.poll(() => numberOf(page, 'Foot lift, left (cm), number')).toBe(7.8);
  await page.getByRole('button', { name: 'split feet' }).click();
  await typeValue(page, 'Time on the ground, right (percent), number', '54');
  await expect(page.getByTestId('footfall-chart')).toHaveAttribute('aria-label', /right foot on the ground 0\.00 to 0\.04/);
  await saved(page);
  await page.reload();
  await expect.poll(() => numberOf(page, 'Foot lift, right (cm), number')).toBe(14);
});

test('a curve editor opens where all of it is seen, from whichever strip, and closes by its own button', async ({ page }) => {
  await openProject(page, 'Editor in view');
  const strips = page.getByRole('region', { name: 'Values' });
  for (const name of ['Rise', 'Hips turn', 'Hips list']) {
    await page.getByRole('button', { name: `Curve of ${name}`, exact: true }).click();
    const editor = page.getByRole('group', { name: `Curve of ${name}` });
    await expect(editor).toBeVisible();
    // Nothing lies under it: what is not seen takes no focus.
    await expect(page.getByTestId('dial')).toBeHidden();
    const seen = await editor.evaluate((el) => {
      const box = el.getBoundingClientRect();
      // What clips it must hold all of it.
      for (let p = el.parentElement; p; p = p.parentElement) {
        const clips = getComputedStyle(p).overflowY !== 'visible';
        const b = p.getBoundingClientRect();
        if (clips && (box.top < b.top - 1 || box.bottom > b.bottom + 1)) return false;
      }
      return box.top >= 0 && box.bottom <= innerHeight;
    });
    expect(seen, name).toBe(true);
    // The strip it belongs to stays in sight beside it.
    await expect(strips.getByRole('button', { name: `Curve of ${name}`, exact: true })).toBeInViewport();
    await page.getByRole('button', { name: `Close: curve of ${name}` }).click();
    await expect(editor).toHaveCount(0);
  }
});
