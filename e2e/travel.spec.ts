import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { Vector3, AnimationMixer } from 'three';
import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js';
import { feetHold, holdAt, numberOf, openProject, picture, saved, test, typeValue, undo, chooseNothing, recorded } from './demo';

const bring = (page: Page, files: Parameters<ReturnType<Page['locator']>['setInputFiles']>[0]) => page.getByLabel('Motion files').setInputFiles(files);
const tab = (page: Page, name: string) => page.getByRole('tab', { name }).click();
const gauge = (page: Page) => page.getByTestId('slide-gauge');
const chart = (page: Page) => page.getByTestId('clip-chart');

/** Saves the clip on its own skeleton and returns its text. */
async function savedText(page: Page): Promise<string> {
  await tab(page, 'files');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as BVH' }).click()]);
  return readFileSync(await download.path(), 'utf8');
}

/** How far a joint moves (mm of a file in units of `unit` m) from one frame to another, as three.js reads the file. */
function moved(text: string, joint: string, unit: number, from: number, to: number): number {
  const { skeleton, clip } = new BVHLoader().parse(text);
  const root = skeleton.bones[0]!;
  const mixer = new AnimationMixer(root);
  mixer.clipAction(clip).play();
  const rate = (clip.tracks[0]!.times.length - 1) / clip.duration;
  const at = (frame: number) => {
    mixer.setTime(frame / rate);
    root.updateMatrixWorld(true);
    return skeleton.bones.find((b) => b.name === joint)!.getWorldPosition(new Vector3());
  };
  const first = at(from);
  let most = 0;
  for (let f = from; f <= to; f += 5) most = Math.max(most, at(f).distanceTo(first));
  return most * unit * 1000;
}

test('a recording is brought in, its feet locked, saved, and an independent reader sees them hold; all is there again after a reload', async ({ page }) => {
  await openProject(page, 'Recording', 'travel');
  const file = recorded(2752);
  await bring(page, file);
  await expect(chart(page)).toHaveAttribute('aria-label', /27 contacts in 22\.9/);
  await expect(gauge(page)).toContainText('feet slide');
  await tab(page, 'feet');
  await page.getByRole('switch', { name: 'Lock the feet' }).click();
  await expect(gauge(page)).toContainText('feet hold');
  await expect(page.getByTestId('lock-facts')).toContainText('locked');
  // In one contact the person drags a foot to another place: that is said, not hidden.
  await expect(gauge(page)).toContainText('1 dragged');
  await expect(page.getByTestId('contacts')).toContainText(/[1-9]\d\.\d mm on its \w+, dragged [1-9]\d/);
  const text = await savedText(page);
  // What a BVH cannot tell goes beside it.
  const [beside] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save contacts beside it', exact: true }).click()]);
  expect(beside.suggestedFilename()).toMatch(/\.contacts\.json$/);
  const told = JSON.parse(readFileSync(await beside.path(), 'utf8')) as { frames: number; contacts: { sure: number; parts: unknown[] }[] };
  expect(told.frames).toBe(2752);
  expect(told.contacts.filter((c) => c.sure === 1 && c.parts.length > 0).length).toBeGreaterThan(25);
  const unit = 0.0254 / 0.45;
  // The left foot's toe joint between two jumps, s 2.5 to 3.3 at 120 a second.
  expect(moved(readFileSync(file, 'utf8'), 'LeftToeBase', unit, 300, 396)).toBeGreaterThan(4);
  expect(moved(text, 'LeftToeBase', unit, 300, 396)).toBeLessThan(0.5);
  await saved(page);
  await page.reload();
  await expect(gauge(page)).toContainText('feet hold');
  await undo(page);
  await expect(gauge(page)).toContainText('feet slide');
});

test('a loop is found in a recording, cut and closed; mirrored and reversed it still holds its feet', async ({ page }) => {
  await openProject(page, 'Loop', 'travel');
  await bring(page, recorded(2752));
  await tab(page, 'cut');
  const best = page.getByTestId('loops').locator('> *').first();
  await expect(best).toContainText(/seam 1\d\.\d mm/);
  await best.click();
  await expect(page.getByTestId('loop-brackets')).toBeAttached();
  await best.getByRole('button', { name: 'Cut' }).click();
  await expect(chart(page)).toHaveAttribute('aria-label', /2 contacts in 1\.9/);
  await page.getByRole('switch', { name: 'mirrored' }).click();
  await page.getByRole('switch', { name: 'reversed' }).click();
  await tab(page, 'feet');
  await page.getByRole('switch', { name: 'Lock the feet' }).click();
  await expect(gauge(page)).toContainText('feet hold');
  // A correction on the body leaves the feet where they stand, as an independent reader sees them in the file.
  const [, from, to] = /L left, (\d+\.\d+) to (\d+\.\d+) s/.exec((await page.getByTestId('contacts').textContent())!)!.map(Number) as [number, number, number];
  await tab(page, 'layers');
  await page.getByRole('button', { name: 'Add layer' }).click();
  await typeValue(page, 'Moved up (cm)', '-5');
  await expect(page.getByTestId('layers')).toContainText('one key');
  await expect(gauge(page)).toContainText('feet hold');
  const text = await savedText(page);
  // It may go on over the loop's seam: looked at is what lies before it, or behind.
  const length = Number(/in (\d+\.\d+) seconds/.exec((await chart(page).getAttribute('aria-label'))!)![1]);
  const [a, b] = to <= length ? [from, to] : length - from > to - length ? [from, length] : [0, to - length];
  // A foot that has landed comes to its place, and at the end it turns about its tip: between them its ball stands.
  const ends = [Math.ceil(a * 120) + 16, Math.floor(b * 120) - 30] as const;
  expect(ends[1] - ends[0]).toBeGreaterThan(20);
  expect(moved(text, 'LeftToeBase', 0.0254 / 0.45, ...ends)).toBeLessThan(0.5);
  await tab(page, 'cut');
  await page.getByRole('button', { name: 'The whole clip again' }).click();
  await expect(chart(page)).toHaveAttribute('aria-label', /in 22\.9/);
});

test('travel is given and taken by kind and axis, a typed distance says what it slides, contacts are dragged on the chart', async ({ page }) => {
  await openProject(page, 'Kinds', 'travel');
  await bring(page, recorded(2752));
  const facts = page.getByTestId('travel-facts');
  await expect(facts).toContainText('3.153 m');
  await expect(facts).toContainText('10.836 m');
  await page.getByRole('radio', { name: 'none, in place' }).click();
  await expect(page.getByText(/Kept: 0\.000 m/)).toBeVisible();
  await page.getByRole('radio', { name: 'as it is' }).click();
  const slide = async () => Number(/most([\d.]+) mm/.exec((await facts.textContent())!)![1]);
  const before = await slide();
  const way = page.getByRole('textbox', { name: 'Distance (m)' });
  await way.fill('30');
  await way.press('Enter');
  await expect(facts).toContainText('30.000 m');
  expect(await slide()).toBeGreaterThan(before + 50);
  await page.getByRole('button', { name: 'As found' }).click();
  await expect(facts).toContainText('3.153 m');
  // The first contact's end is dragged to the left: one step, and taken back as one.
  const end = (await chart(page).locator('[data-end="left to"]').first().boundingBox())!;
  await page.mouse.move(end.x + 4, end.y + 8);
  await page.mouse.down();
  await page.mouse.move(end.x - 30, end.y + 8, { steps: 6 });
  await page.mouse.up();
  await tab(page, 'feet');
  await expect(page.getByRole('button', { name: 'As found' })).toBeEnabled();
  await undo(page);
  await expect(page.getByRole('button', { name: 'As found' })).toBeDisabled();
});

test('a recording is mended, corrected in layers with its feet locked, and the file has it; layers are baked and brought back', async ({ page }) => {
  await openProject(page, 'Layers', 'travel');
  await bring(page, recorded(2752));
  await tab(page, 'cut');
  const repair = page.getByTestId('repair');
  await repair.getByRole('switch', { name: 'spikes taken out' }).click();
  await expect(repair).toContainText(/\d+ mended, \d+ mm at most/);
  await repair.getByRole('switch', { name: 'floor brought to 0' }).click();
  await expect(repair).toContainText(/[1-9]\d\.\d mm at most/);
  await tab(page, 'feet');
  await page.getByRole('switch', { name: 'Lock the feet' }).click();
  await expect(gauge(page)).toContainText('feet hold');
  const hips = (text: string) => text.slice(text.indexOf('Frame Time')).split('\n').filter(Boolean)[1501]!.trim().split(/\s+/).slice(0, 3).map(Number);
  const before = await savedText(page);
  await tab(page, 'layers');
  await page.getByRole('button', { name: 'Add layer' }).click();
  const up = page.getByRole('textbox', { name: 'Moved up' });
  await up.fill('-6');
  await up.press('Enter');
  await expect(page.getByTestId('layers')).toContainText('one key');
  // Lower hips, and the feet still stand where they stood.
  await expect(gauge(page)).toHaveAttribute('aria-busy', 'false');
  await expect(gauge(page)).toContainText('feet hold');
  const after = await savedText(page);
  expect((hips(before)[1]! - hips(after)[1]!) * (0.0254 / 0.45)).toBeCloseTo(0.06, 3);
  await tab(page, 'layers');
  await page.getByRole('button', { name: 'Bake layers down' }).click();
  await expect(page.getByText('one layer is baked in')).toBeVisible();
  await undo(page);
  await expect(page.getByTestId('layers')).toContainText('one key');
  await undo(page);
  await expect(page.getByTestId('layers')).toContainText('0 keys');
});

test('roles are given by hand, broken files are refused in words and change nothing', async ({ page }) => {
  await openProject(page, 'Roles', 'travel');
  await expect(page.getByText('Drop motion files here')).toBeVisible();
  await bring(page, [
    { name: 'broken.bvh', mimeType: 'text/plain', buffer: Buffer.from('HIERARCHY\nROOT x {') },
    {
      name: 'pole.bvh',
      mimeType: 'text/plain',
      buffer: Buffer.from(
        'HIERARCHY\nROOT a { OFFSET 0 0 0 CHANNELS 3 Xposition Yposition Zposition End Site { OFFSET 0 1 0 } }\nMOTION\nFrames: 1\nFrame Time: 0.03\n0 0 0\n',
      ),
    },
    { name: 'empty.glb', mimeType: 'model/gltf-binary', buffer: Buffer.alloc(0) },
  ]);
  await expect(page.getByText(/broken\.bvh: line 2: .*Nothing was changed/)).toBeVisible();
  await expect(page.getByText(/pole\.bvh: .*no two legs were found/)).toBeVisible();
  await expect(page.getByText(/empty\.glb: the file is empty/)).toBeVisible();
  await expect(page.getByText('Drop motion files here')).toBeVisible();
  await bring(page, recorded(3069));
  await tab(page, 'joints');
  await expect(page.getByText(/the file says it has 3069 frames; 3070 whole rows/)).toBeVisible();
  const neck = page.getByRole('combobox', { name: 'Role of Neck' });
  await expect(neck).toHaveText('neck');
  await neck.click();
  await page.getByRole('option', { name: '–' }).click();
  await expect(neck).toHaveText('–');
  await undo(page);
  await expect(neck).toHaveText('neck');
});

test('a clip’s gait is taken, with how well it fits; it becomes a gait of the project and is walked', async ({ page }) => {
  // The fit alone takes a quarter of a minute on a core of its own.
  test.setTimeout(240_000);
  await openProject(page, 'Gait', 'travel');
  await bring(page, recorded(4511));
  await expect(chart(page)).toHaveAttribute('aria-label', /contacts in/);
  await tab(page, 'gait');
  const taken = page.getByTestId('taken-gait');
  await page.getByRole('button', { name: 'Fit a gait' }).click();
  await expect(page.getByRole('progressbar', { name: 'Fitting a gait' })).toBeVisible();
  // The page stays usable meanwhile.
  await holdAt(page, 0.2);
  await expect(taken).toBeVisible({ timeout: 180_000 });
  // A recorded walk: hips, knees and ankles within 6°.
  for (const joint of ['Hips are bent', 'Knees', 'Ankles'])
    await expect(taken.locator('dt', { hasText: joint }).locator('+ dd')).toHaveText(/^[0-5]\.\d° off$/);
  await taken.getByRole('button', { name: 'Add to the gaits' }).click();
  await expect(page.getByText(/is a gait of this project now/)).toBeVisible();
  await page.getByRole('link', { name: /Cycle/ }).click();
  await feetHold(page);
  await expect.poll(() => numberOf(page, 'Stride length (m), number')).toBeGreaterThan(1);
});

test('two clips are seen together, side by side and laid over each other, and their travels are held against each other', async ({ page }) => {
  await openProject(page, 'Pair', 'travel');
  const file = recorded(2752);
  await bring(page, [file]);
  await expect(chart(page)).toHaveAttribute('aria-label', /27 contacts/);
  await bring(page, [file]);
  await expect(page.getByTestId('clips').getByRole('button', { name: /2/ })).not.toHaveCount(0);
  await tab(page, 'cut');
  await page.getByRole('switch', { name: 'mirrored' }).click();
  await tab(page, 'travel');
  await holdAt(page, 0.3);
  const alone = await picture(page);
  const choose = async (box: string, option: string | RegExp) => {
    await page.getByRole('combobox', { name: box }).click();
    await page.getByRole('option', { name: option }).click();
  };
  await page.getByRole('combobox', { name: 'Clip beside it' }).click();
  await page.getByRole('option').nth(1).click();
  const together = page.getByTestId('together');
  await expect(together).toContainText('Nearest to mirror images');
  await expect(together).toContainText(/off by [01]\.\d mm, 0\.0\d°, 0\.00 s/);
  await expect.poll(() => picture(page)).not.toBe(alone);
  const beside = await picture(page);
  await choose('How the two are shown', 'laid over at a right landing');
  await expect.poll(() => picture(page)).not.toBe(beside);
});

/** A place on the walkway where something can be taken up, looked for from the middle outward and upward; null where there is none. */
async function grip(page: Page, part = 0.5): Promise<{ x: number; y: number } | null> {
  const box = (await page.getByTestId('walkway').boundingBox())!;
  const canvas = page.getByTestId('walkway').locator('canvas[data-engine]');
  for (const dx of [0, 6, -6, 12, -12, 20, -20, 30, -30])
    for (let dy = 0; dy < 0.42; dy += 0.012) {
      const at = { x: box.x + box.width * 0.5 + dx, y: box.y + box.height * (part + dy) };
      await page.mouse.move(at.x, at.y);
      if ((await canvas.evaluate((c) => c.style.cursor)) === 'grab') return at;
    }
  return null;
}

test('what is made here comes in as a clip, in its own skin; its joints are pointed at in the list and on the figure', async ({ page }) => {
  await openProject(page, 'Made', 'travel');
  await page.getByRole('button', { name: 'Made here…' }).click();
  await page.getByRole('menuitem', { name: /^Cycle/ }).click();
  await expect(page.getByTestId('clips').getByRole('button', { name: /frames, 1\.04 s/ })).toBeVisible();
  await feetHold(page);
  await expect(page.getByTestId('matched')).toHaveText(/take 1\.4\d\d m, 1\.0\d s/);
  await typeValue(page, 'Cycles (×)', '3');
  await expect(page.getByTestId('matched')).toHaveText(/take 4\.2\d\d m, 3\.1\d s/);
  await tab(page, 'joints');
  await holdAt(page, 0.3);
  await page.waitForTimeout(500);
  const skinned = await picture(page);
  await page.getByRole('switch', { name: 'shown in its own skin' }).click();
  await expect.poll(() => picture(page)).not.toBe(skinned);
  const row = (name: string) => page.getByTestId('joints').getByText(name, { exact: true });
  await row('leftHand').hover();
  await expect(row('leftHand')).toHaveAttribute('aria-current', 'true');
  const at = await grip(page, 0.3);
  await page.mouse.click(at!.x, at!.y);
  await expect(row('leftHand')).toHaveAttribute('aria-current', 'false');
  await expect(page.getByTestId('joints').locator('[aria-current="true"]')).toHaveCount(1);
});

test('a layer is dragged by its plumb, as one step back; the treadmill holds way by way, and the chart draws heights', async ({ page }) => {
  await openProject(page, 'Plumb', 'travel');
  await bring(page, recorded(2752));
  await expect(chart(page)).toHaveAttribute('aria-label', /27 contacts/);
  await holdAt(page, 0.45);
  await tab(page, 'layers');
  await page.getByRole('button', { name: 'Add layer' }).click();
  await page.waitForTimeout(600);
  const up = () => numberOf(page, 'Moved up (cm)');
  expect(await up()).toBe(0);
  const knob = await grip(page, 0.25);
  await page.mouse.move(knob!.x, knob!.y);
  await page.mouse.down();
  await page.mouse.move(knob!.x, knob!.y - 40, { steps: 4 });
  await page.mouse.up();
  await expect.poll(up).toBeGreaterThan(2);
  await expect(page.getByTestId('layers')).toContainText('one key');
  await undo(page);
  await expect.poll(up).toBe(0);
  // Fades over the phase of every stride.
  await page.getByRole('switch', { name: 'fades' }).click();
  await page.getByRole('combobox', { name: 'Fades over' }).click();
  await page.getByRole('option', { name: /each stride/ }).click();
  await expect.poll(() => numberOf(page, 'Fades out to (str)')).toBe(0.5);
  await tab(page, 'travel');
  const free = await picture(page);
  await page.getByRole('checkbox', { name: 'held in view: sideways' }).click();
  await expect(page.getByRole('switch', { name: 'treadmill' })).toBeChecked();
  await expect.poll(() => picture(page)).not.toBe(free);
  await page.getByRole('combobox', { name: 'What the line shows' }).click();
  await page.getByRole('option', { name: 'heights' }).click();
  await expect(chart(page).locator('[data-line^="heights"]')).toHaveCount(3);
});

test('a clip goes out on a body of ours, with its travel where it is wanted, and among the files of the hand-over', async ({ page }) => {
  const id = await openProject(page, 'Out', 'travel');
  await bring(page, { name: 'quay.bvh', mimeType: 'text/plain', buffer: readFileSync(recorded(2752)) });
  await expect(chart(page)).toHaveAttribute('aria-label', /27 contacts/);
  await tab(page, 'feet');
  await page.getByRole('switch', { name: 'Lock the feet' }).click();
  await tab(page, 'files');
  await page.getByRole('combobox', { name: 'Travel on' }).click();
  await page.getByRole('option', { name: 'a root joint' }).click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: /^Save on Marlo as BVH/ }).click()]);
  await expect(page.getByText(/On Marlo Venn a standing foot slides up to 0\.0\d mm/)).toBeVisible();
  const text = readFileSync(await download.path(), 'utf8');
  // As three.js reads it: the root goes, the hips over it stay near, a standing foot holds.
  const { skeleton } = new BVHLoader().parse(text);
  expect(skeleton.bones.slice(0, 2).map((b) => b.name)).toEqual(['root', 'hips']);
  expect(moved(text, 'root', 1, 10, 2000)).toBeGreaterThan(500);
  expect(moved(text, 'leftToes', 1, 300, 396)).toBeLessThan(0.5);
  await saved(page);
  await page.goto(`/p/${id}/hand-over`);
  await feetHold(page);
  await chooseNothing(page);
  await page.getByRole('checkbox', { name: 'quay' }).check();
  await page.getByRole('radio', { name: 'Marlo Venn' }).check();
  await page.getByRole('button', { name: 'Write one file' }).click();
  const files = page.getByTestId('files');
  await expect(files).toContainText('marlo-venn-quay.glb');
  // What the person dragged is told with the file.
  await expect(files.getByText(/quay: in one contact the foot is dragged, by up to \d\d mm/)).toBeVisible();
});
