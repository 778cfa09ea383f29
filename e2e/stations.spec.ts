import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { strFromU8, unzipSync } from 'fflate';
import validator from 'gltf-validator';
import { ROLES } from '../src/core/body/roles';
import { readWithAssimp, readWithBvhLoader, readWithGltfLoader } from '../src/core/tests/readers';
import { feetHold, holdAt, openProject, openStation, picture, saved, test } from './demo';

test('ten steps: from standing, along the footholds, to standing', async ({ page }) => {
  const id = await openProject(page, 'Steps', 'steps');
  const rows = page.getByRole('region', { name: 'Footholds' }).locator('tbody tr');
  const toPage = (name: string) => page.getByRole('tab', { name }).click();
  await toPage('prints');
  await expect(rows).toHaveCount(10);
  const foot = rows.first().locator('td').nth(1);
  await expect(foot).toHaveText('L');
  // It lands at the frame the playback tells for its time.
  const [lands, frame] = (await rows.first().locator('td').allTextContents()).slice(5, 7).map(Number) as [number, number];
  expect(Math.abs(frame - (1 + Math.floor(lands * 24)))).toBeLessThanOrEqual(1);
  await toPage('rules');
  await page.getByRole('button', { name: 'R right' }).click();
  await toPage('prints');
  await expect(foot).toHaveText('R');
  await toPage('rules');
  const field = page.getByRole('textbox', { name: 'Number of steps, number' });
  await field.fill('6');
  await field.press('Enter');
  await expect(page.getByTestId('ribbon').locator('[data-print]')).toHaveCount(8);
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await holdAt(page, 0);
  const standing = await picture(page);
  await holdAt(page, 0.5);
  await expect.poll(() => picture(page)).not.toBe(standing);
  // How its ends are played: more time standing makes it longer, no lean another start; each is one step back.
  const told = page.getByText(/From standing to standing/);
  const before = await told.textContent();
  const standingTime = page.getByRole('textbox', { name: 'Standing time (percent), number' });
  await standingTime.fill('200');
  await standingTime.press('Enter');
  await expect(told).not.toHaveText(before!);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(told).toHaveText(before!);
  await holdAt(page, 0.25);
  const leaning = await picture(page);
  const lean = page.getByRole('textbox', { name: 'Start and stop lean (percent), number' });
  await lean.fill('0');
  await lean.press('Enter');
  await expect.poll(() => picture(page)).not.toBe(leaning);
  await page.getByRole('combobox', { name: 'Gait of the walk' }).click();
  await page.getByRole('option', { name: 'Run' }).click();
  await expect(page.getByTestId('slide-gauge')).toContainText('feet hold');
  await saved(page);
  await openStation(page, id, 'steps');
  await toPage('prints');
  await expect(rows).toHaveCount(6);
});

test('eight directions on the rose: measured, opposite ones equal, each one plays', async ({ page }) => {
  await openProject(page, 'Directions', 'directions');
  const rows = page.getByTestId('set-table').locator('tbody tr');
  await expect(rows).toHaveCount(8);
  await expect(rows.last().locator('td').nth(3)).not.toHaveText('…');
  const cells = await rows.evaluateAll((trs) => trs.map((tr) => [...tr.querySelectorAll('td')].map((td) => td.textContent ?? '')));
  for (const row of cells) expect(Number(row[3])).toBeLessThanOrEqual(0.05);
  for (let i = 0; i < 4; i++) expect(cells[i]![2]).toBe(cells[i + 4]![2]);
  await holdAt(page, 0.3);
  const ahead = await picture(page);
  await page.getByRole('button', { name: 'left 90°' }).click();
  await page.waitForTimeout(500);
  expect(await picture(page)).not.toBe(ahead);
  await page.getByRole('switch', { name: 'Twins' }).click();
  await expect(rows).toHaveCount(14);
  // Side steps need no twins; a waist that turns less is another figure.
  await page.getByRole('combobox', { name: 'How sideways members step' }).click();
  await page.getByRole('option', { name: /side steps/ }).click();
  await expect(rows).toHaveCount(8);
  await expect(rows.last().locator('td').nth(3)).not.toHaveText('…');
  for (const slide of await rows.locator('td:nth-child(4)').allTextContents()) expect(Number(slide)).toBeLessThanOrEqual(0.05);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rows).toHaveCount(14);
  const wrung = await picture(page);
  const waist = page.getByRole('textbox', { name: /^Waist .*number/ });
  await waist.fill('0');
  await waist.press('Enter');
  await expect.poll(() => picture(page)).not.toBe(wrung);
});

test('hand-over: files are written, measured, saved, and read by other readers', async ({ page }, info) => {
  await openProject(page, 'Hand-over', 'hand-over');
  await page.getByRole('checkbox', { name: 'BVH', exact: true }).click();
  await page.getByRole('checkbox', { name: 'contacts beside BVH' }).click();
  for (const direction of ['ahead left, 45°', 'back left, 135°', 'back right, -135°', 'ahead right, -45°'])
    await page.getByRole('checkbox', { name: direction, exact: true }).click();
  await page.getByRole('combobox', { name: 'Frame rate' }).click();
  await page.getByRole('option', { name: '30 frames a second' }).click();
  // The cycle and the member ahead are one motion, written once.
  await page.getByRole('button', { name: 'Write 10 files' }).click();
  const files = page.getByTestId('files');
  await expect(files.locator('tbody tr')).toHaveCount(10);
  for (const slide of await files.locator('tbody tr td:nth-child(3)').allTextContents()) expect(Number(slide)).toBeLessThanOrEqual(0.05);
  const download = page.waitForEvent('download');
  await files.getByRole('link', { name: /Save / }).click();
  const path = info.outputPath('pack.zip');
  await (await download).saveAs(path);

  const names = ROLES.filter((r) => r !== 'root');
  const entries = unzipSync(new Uint8Array(readFileSync(path)));
  const manifest = JSON.parse(strFromU8(entries['manifest.json']!)) as { clips: { file: string; contactsFile?: string }[] };
  expect(manifest.clips.filter((c) => c.contactsFile)).toHaveLength(5);
  expect(manifest.clips.flatMap((c) => [c.file, ...(c.contactsFile ? [c.contactsFile] : [])]).sort()).toEqual(
    Object.keys(entries)
      .filter((e) => e !== 'manifest.json')
      .sort(),
  );
  for (const [name, bytes] of Object.entries(entries)) {
    if (name.endsWith('.glb')) {
      const { issues } = await validator.validateBytes(bytes);
      expect([name, issues.numErrors, issues.numWarnings]).toEqual([name, 0, 0]);
      const bvh = entries[name.replace('.glb', '.bvh')]!;
      // Three readers and two formats agree on where every joint is.
      const one = (await readWithGltfLoader(bytes, names))(5, 30);
      for (const other of [
        readWithBvhLoader(strFromU8(bvh), names)(5, 30),
        readWithAssimp(bytes, '.glb', names)(5, 30),
        readWithAssimp(bvh, '.bvh', names)(5, 30),
      ])
        for (const joint of names) for (let k = 0; k < 3; k++) expect(Math.abs(other.get(joint)![k]! - one.get(joint)![k]!)).toBeLessThan(2e-5);
      const file = info.outputPath('clip.glb');
      writeFileSync(file, bytes);
      const checked = JSON.parse(execFileSync(join(process.cwd(), 'nimbret'), ['check', file, '--json'], { encoding: 'utf8' })) as {
        slideMm: { atFrames: number };
      };
      expect(checked.slideMm.atFrames).toBeLessThanOrEqual(0.05);
    }
  }
});

test('hand-over: all gaits, walks and members with their twins can be chosen, found by typing', async ({ page }) => {
  const id = await openProject(page, 'All of it', 'directions');
  await page.getByRole('switch', { name: 'Twins' }).click();
  await saved(page);
  const items = (await (await page.request.get(`/api/projects/${id}`)).json()) as { id: string; kind: string; spec: { name: string } }[];
  const run = items.filter((i) => i.kind === 'gait')[1]!.id;
  const spec = {
    ...items.find((i) => i.kind === 'plan')!.spec,
    name: 'Through all',
    opens: { gait: run, phase: 0 },
    gaits: [{ at: 3, stretch: 1, gait: run }],
  };
  expect((await page.request.post(`/api/projects/${id}/items/plan`, { data: { spec } })).ok()).toBe(true);
  await page.goto(`/p/${id}/hand-over`);
  await feetHold(page);
  await page.getByRole('checkbox', { name: 'all', exact: true }).check();
  await expect(page.getByText('19 of 19 chosen')).toBeVisible();
  // The member ahead is the cycle of its gait.
  await expect(page.getByRole('button', { name: 'Write 18 files' })).toBeEnabled();
  const find = page.getByRole('textbox', { name: 'Find what to hand over, by name or kind' });
  await find.fill('directions twin');
  await expect(page.getByRole('region', { name: 'What to hand over' }).getByRole('checkbox', { name: /, twin$/ })).toHaveCount(6);
  await find.fill('');
  await page.getByRole('checkbox', { name: 'all', exact: true }).uncheck();
  await find.fill('walks through');
  await page.getByRole('checkbox', { name: 'all found' }).check();
  await find.fill('twin back left');
  await page.getByRole('checkbox', { name: 'all found' }).check();
  await expect(page.getByText('2 of 19 chosen')).toBeVisible();
  await saved(page);
  await page.reload();
  await feetHold(page);
  await page.getByRole('button', { name: 'Write 2 files' }).click();
  const files = page.getByTestId('files');
  await expect(files).toContainText(/through-all_0deg/);
  await expect(files).toContainText(/walk-twin_135deg/);
});

test('hand-over can be cancelled and remembers its choices', async ({ page }) => {
  const id = await openProject(page, 'Cancel', 'steps');
  // A long plan at a high rate, so that there is something to stop.
  const field = page.getByRole('textbox', { name: 'Number of steps, number' });
  await field.fill('200');
  await field.press('Enter');
  await saved(page);
  await page.getByRole('link', { name: /Hand-over/ }).click();
  await page.getByRole('checkbox', { name: 'BVH', exact: true }).click();
  await page.getByRole('combobox', { name: 'Frame rate' }).click();
  await page.getByRole('option', { name: '120 frames a second' }).click();
  await page.getByRole('button', { name: 'in place' }).click();
  await saved(page);
  await page.getByRole('button', { name: /^Write / }).click();
  await page.getByRole('button', { name: 'Cancel' }).dispatchEvent('click');
  await expect(page.getByText('Stopped. Nothing was written.')).toBeVisible();
  await page.goto(`/p/${id}/hand-over`);
  await expect(page.getByRole('combobox', { name: 'Frame rate' })).toHaveText('120 frames a second');
  await expect(page.getByRole('button', { name: 'in place' })).toHaveAttribute('aria-pressed', 'true');
});
