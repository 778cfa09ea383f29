import { expect, type Page } from '@playwright/test';
import { numberOf, openProject, openStation, saved, test, typeValue } from './demo';

const lift = 'Foot lift (cm), number';
const crouch = 'Crouch (cm), number';
const conflict = (page: Page) => page.getByTestId('conflict');

/** Two windows on one project that both changed the same gait. */
async function met(page: Page, name: string): Promise<{ other: Page; id: string }> {
  const id = await openProject(page, name);
  const other = await page.context().newPage();
  await openStation(other, id, 'cycle');
  await typeValue(page, lift, '11');
  await saved(page);
  await typeValue(other, lift, '12');
  await expect(conflict(other)).toBeVisible();
  return { other, id };
}

test('a conflict can be laid side by side and kept as a new gait; nothing of either window is lost', async ({ page }) => {
  const { other } = await met(page, 'Side by side');
  await conflict(other).getByRole('button', { name: 'Side by side' }).click();
  const table = conflict(other).getByRole('table');
  await expect(table.getByRole('row', { name: /feet\.lift/ })).toContainText('0.12');
  await expect(table.getByRole('row', { name: /feet\.lift/ })).toContainText('0.11');
  // Other items go on being saved meanwhile.
  await other.getByRole('link', { name: /Steps/ }).click();
  await typeValue(other, 'Number of steps, number', '14');
  await expect(other.getByTestId('save-state')).toHaveAttribute('data-state', 'conflict');
  await conflict(other)
    .getByRole('button', { name: /Keep mine as a new/ })
    .click();
  await saved(other);
  await other.getByRole('link', { name: /Cycle/ }).click();
  await expect(other.getByRole('combobox', { name: 'Gait', exact: true })).toContainText('Walk (mine)');
  expect(await numberOf(other, lift)).toBe(12);
  await page.reload();
  await expect(page.getByTestId('slide-gauge')).toContainText('feet hold');
  await page.getByRole('combobox', { name: 'Gait' }).click();
  await expect(page.getByRole('option', { name: 'Walk (mine)' })).toBeVisible();
  await page.getByRole('option', { name: 'Walk', exact: true }).click();
  await expect.poll(() => numberOf(page, lift)).toBe(11);
});

test('theirs can be taken, and undo still gives mine back', async ({ page }) => {
  const { other } = await met(page, 'Theirs');
  await typeValue(other, crouch, '5');
  await conflict(other).getByRole('button', { name: 'Take theirs' }).click();
  await saved(other);
  expect(await numberOf(other, lift)).toBe(11);
  await other.keyboard.press('Control+z');
  await expect.poll(() => numberOf(other, lift)).toBe(12);
  await saved(other);
  for (let i = 0; i < 2; i++) await other.keyboard.press('Control+z');
  await expect.poll(() => numberOf(other, lift)).toBe(7.8);
});

test('two windows that choose different gaits and work on different things do not meet at all', async ({ page }) => {
  const id = await openProject(page, 'Apart');
  const other = await page.context().newPage();
  await openStation(other, id, 'cycle');
  await other.getByRole('combobox', { name: 'Gait', exact: true }).click();
  await other.getByRole('option', { name: 'Run' }).click();
  await saved(other);
  await page.getByRole('combobox', { name: 'Body' }).click();
  await page.getByRole('option', { name: /Pip/ }).click();
  await saved(page);
  await expect(conflict(page)).toBeHidden();
  const items = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    kind: string;
    id: string;
    spec: { name: string; body: string; gait: string };
  }[];
  const named = (key: 'body' | 'gait') => items.find((i) => i.id === items[0]!.spec[key])!.spec.name;
  expect([named('body'), named('gait')]).toEqual(['Pip Orrin', 'Run']);
});

test('a lost answer is no conflict, and work done without a server survives the closing of the tab', async ({ page, context }) => {
  const id = await openProject(page, 'Offline');
  // The save arrives, its answer does not.
  await context.route('**/changes', async (route) => {
    await route.fetch();
    await route.abort();
  });
  await typeValue(page, lift, '9');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'offline');
  await context.unroute('**/changes');
  await saved(page);
  await expect(conflict(page)).toBeHidden();

  await context.setOffline(true);
  await typeValue(page, lift, '10');
  await typeValue(page, crouch, '4');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'offline');
  let asked = false;
  page.on('dialog', (dialog) => {
    asked = dialog.type() === 'beforeunload';
    void dialog.accept();
  });
  // Open before the other closes: a browser without a page would end.
  const again = await context.newPage();
  await page.close({ runBeforeUnload: true });
  await expect.poll(() => page.isClosed()).toBe(true);
  expect(asked).toBe(true);
  await context.setOffline(false);

  await openStation(again, id, 'cycle');
  expect(await numberOf(again, lift)).toBe(9);
  await again.getByTestId('kept-work').getByRole('button', { name: 'Restore it' }).click();
  await saved(again);
  expect([await numberOf(again, lift), await numberOf(again, crouch)]).toEqual([10, 4]);
  await again.keyboard.press('Control+z');
  await expect.poll(() => numberOf(again, crouch)).not.toBe(4);
  await saved(again);
  await again.reload();
  await expect.poll(() => numberOf(again, lift)).toBe(10);
  await expect(again.getByTestId('kept-work')).toBeHidden();
});

test('a project deleted elsewhere loses nothing done here', async ({ page }) => {
  const id = await openProject(page, 'Deleted elsewhere');
  await page.request.delete(`/api/projects/${id}`);
  await typeValue(page, lift, '10');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'gone');
  page.on('dialog', (dialog) => void dialog.accept());
  await page.getByRole('button', { name: 'Bring the project back' }).click();
  await page.getByTestId('kept-work').getByRole('button', { name: 'Restore it' }).click();
  await saved(page);
  expect(await numberOf(page, lift)).toBe(10);
});
