import { expect } from '@playwright/test';
import { test } from './demo';

test('projects: open the demo, create, rename, duplicate, delete with undo', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'The tidal post' })).toBeVisible();
  await page.getByLabel('Name of a new project').fill('Shingle bank');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page).toHaveURL(/\/p\/.+\/cycle$/);
  await expect(page.getByRole('heading', { name: 'Shingle bank' })).toBeVisible();
  await page.getByRole('link', { name: /all projects/ }).click();

  const row = page.getByRole('row', { name: /Shingle bank/ });
  await row.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('New name').fill('Stepping stones');
  await page.getByLabel('New name').press('Enter');
  const renamed = page.getByRole('row').filter({ has: page.getByRole('link', { name: 'Stepping stones', exact: true }) });
  await expect(renamed).toBeVisible();
  await renamed.getByRole('button', { name: 'Duplicate' }).click();
  const copy = page.getByRole('row').filter({ has: page.getByRole('link', { name: 'Stepping stones (copy)' }) });
  await expect(copy).toBeVisible();
  await copy.getByRole('button', { name: 'Delete' }).click();
  await expect(copy).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(copy).toBeVisible();
  await page.reload();
  await expect(copy).toBeVisible();
  await copy.getByRole('button', { name: 'Delete' }).click();
  await renamed.getByRole('button', { name: 'Delete' }).click();
  await expect(renamed).toBeHidden();
});

test('routes answer faults as problem details', async ({ request }) => {
  const bad = await request.post('/api/projects', { data: { name: '' } });
  expect([bad.status(), bad.headers()['content-type']]).toEqual([422, 'application/problem+json']);
  expect(await (await request.get('/api/projects/none')).json()).toMatchObject({ status: 404, title: 'Not found' });
  const large = await request.post('/api/projects', { data: { name: 'x'.repeat(1_100_000) } });
  expect(large.status()).toBe(413);
  expect((await request.get('/p/none/cycle')).status()).toBe(404);
});
