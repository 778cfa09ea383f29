import { expect } from '@playwright/test';
import { holdAt, numberOf, openProject, openStation, picture, saved, test, typeValue } from './demo';

test('the demo opens on a walk that holds its feet, and changing stride and speed changes numbers and figure', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'The tidal post' }).click();
  await expect(page.getByTestId('slide-gauge')).toContainText('0.0');
  await expect(page.getByTestId('slide-gauge')).toContainText('feet hold');
  await page.getByRole('link', { name: /all projects/ }).click();

  await openProject(page, 'Cycle test');
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await holdAt(page, 0.02);
  const before = await picture(page);
  expect(await numberOf(page, 'Speed (m/s), number')).toBeCloseTo(1.35, 2);
  await typeValue(page, 'Speed (m/s), number', '1.8');
  // Stride time is held, so the stride gets longer.
  await expect.poll(() => numberOf(page, 'Stride length (m), number')).toBeCloseTo(1.89, 2);
  await page.waitForTimeout(400);
  const after = await picture(page);
  expect(after).not.toBe(before);
  await expect(page.getByTestId('slide-gauge')).toContainText('feet hold');

  await page.getByRole('button', { name: 'Hold Speed' }).click();
  await typeValue(page, 'Stride length (m), number', '1.5');
  await expect.poll(() => numberOf(page, 'Speed (m/s), number')).toBeCloseTo(1.8, 2);
  await expect.poll(() => numberOf(page, 'Stride time (s), number')).toBeCloseTo(0.833, 3);
});

test('saving is automatic, undo and redo survive a reload', async ({ page }) => {
  await openProject(page, 'Undo test');
  await typeValue(page, 'Foot lift (cm), number', '12');
  await saved(page);
  await page.getByRole('slider', { name: 'Crouch (cm)' }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  const crouch = await numberOf(page, 'Crouch (cm), number');
  expect(crouch).toBeGreaterThan(1.8);
  await saved(page);
  await page.reload();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(12);
  expect(await numberOf(page, 'Crouch (cm), number')).toBe(crouch);
  await page.getByRole('button', { name: 'Undo' }).click();
  while (await page.getByRole('button', { name: 'Undo' }).isEnabled()) await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(7.8);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(12);
  await page.getByRole('button', { name: 'Reset Foot lift' }).click();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(7.8);
  await saved(page);
});

test('leaving at once and coming back with the browser loses nothing', async ({ page }) => {
  await page.goto('/');
  await openProject(page, 'Leaving');
  await typeValue(page, 'Foot lift (cm), number', '7');
  await page.getByRole('link', { name: /all projects/ }).click();
  await expect(page.getByLabel('Name of a new project')).toBeVisible();
  await page.goBack();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(7);
  await typeValue(page, 'Foot lift (cm), number', '6');
  await saved(page);
  await page.reload();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(6);
});

test('what a leg cannot reach is said on the gauge', async ({ page }) => {
  await openProject(page, 'Too far');
  await page.getByRole('button', { name: 'Hold Stride time' }).click();
  await typeValue(page, 'Stride length (m), number', '2.8');
  await expect(page.getByTestId('slide-gauge')).toContainText('note');
  await holdAt(page, 0.5);
  await page.getByTestId('slide-gauge').click();
  const note = page.locator('[data-note=fault]', {
    hasText: /out of the leg's reach at \d\.\d\d s, frame \d+ at 24 a second .* A stride of 2\.\d\d m is reached/,
  });
  await expect(note).toBeVisible();
  // It goes to the moment it tells of.
  const frame = /frame (\d+) at/.exec((await note.textContent())!)![1];
  await note.getByRole('button', { name: 'show' }).click();
  await expect(page.getByTestId('time')).toContainText(`frame ${frame}`);
});

test('presets, bodies, the dial and the keys', async ({ page }) => {
  await openProject(page, 'Dial test');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await expect(page.getByText('in flight')).toBeVisible();
  await expect(page.getByTestId('slide-gauge')).toContainText('feet hold');
  const stride = await numberOf(page, 'Stride length (m), number');
  await page.getByRole('combobox', { name: 'Body' }).click();
  await page.getByRole('option', { name: /Pip Orrin/ }).click();
  await expect.poll(() => numberOf(page, 'Stride length (m), number')).toBeLessThan(stride * 0.8);
  await page.getByRole('button', { name: 'Walk', exact: true }).click();

  const phase = page.getByRole('slider', { name: 'Right leg phase' }).first();
  await expect(phase).toHaveAttribute('aria-valuenow', '0.5');
  await phase.focus();
  await page.keyboard.press('ArrowRight');
  await expect(phase).toHaveAttribute('aria-valuenow', '0.51');
  const duty = page.getByRole('slider', { name: 'Left leg: time on the ground' });
  const box = (await duty.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 40, box.y + 30, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => numberOf(page, 'Time on the ground (percent), number')).toBeLessThan(60);
  // One drag is one step back.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => numberOf(page, 'Time on the ground (percent), number')).toBe(60.5);

  await page.locator('body').click({ position: { x: 640, y: 300 } });
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  const time = page.getByTestId('time');
  await page.keyboard.press('.');
  const one = await time.textContent();
  await page.keyboard.press('.');
  expect(await time.textContent()).not.toBe(one);
  await page.keyboard.press(',');
  await expect(time).toHaveText(one!);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('two windows never overwrite each other silently', async ({ page, context }) => {
  const id = await openProject(page, 'Two windows');
  const other = await context.newPage();
  await openStation(other, id, 'cycle');
  await typeValue(page, 'Foot lift (cm), number', '8');
  await saved(page);
  await typeValue(other, 'Foot lift (cm), number', '20');
  await expect(other.getByTestId('save-state')).toHaveAttribute('data-state', 'conflict');
  await expect(other.getByText(/changed in another window/)).toBeVisible();
  await other.getByRole('button', { name: 'Take theirs' }).click();
  await expect.poll(() => numberOf(other, 'Foot lift (cm), number')).toBe(8);
});

test('without the server, work is kept and saved when it is back', async ({ page, context }) => {
  await openProject(page, 'Offline');
  await context.setOffline(true);
  await typeValue(page, 'Foot lift (cm), number', '9');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'offline');
  await context.setOffline(false);
  await saved(page);
  await page.reload();
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(9);
});

test('the slide gauge lists the contacts and jumps to one; the treadmill holds the figure', async ({ page }) => {
  await openProject(page, 'Gauge');
  await holdAt(page, 0.02);
  await page.getByTestId('slide-gauge').click();
  await expect(page.getByText('Contacts, worst first')).toBeVisible();
  await expect(page.getByTestId('jolts')).toContainText(/Knees.*°\/s².*20,000 look smooth.*Hips.*m\/s²/);
  const time = await page.getByTestId('time').textContent();
  await page.getByRole('button', { name: /R right, .* mm at frames/ }).click();
  expect(await page.getByTestId('time').textContent()).not.toBe(time);
  // What the numbers mean is read beside the work.
  const [meanings] = await Promise.all([page.waitForEvent('popup'), page.getByRole('link', { name: 'What these numbers are' }).click()]);
  await expect(meanings.getByRole('heading', { name: 'Slide' })).toBeVisible();
  await expect(meanings.getByRole('cell', { name: 'heel point, toes up' })).toBeVisible();
  await meanings.close();
  await page.keyboard.press('Escape');
  const moving = await picture(page);
  await page.getByRole('switch', { name: 'treadmill' }).click();
  await page.getByRole('switch', { name: 'prints' }).click();
  await page.waitForTimeout(400);
  expect(await picture(page)).not.toBe(moving);
});
