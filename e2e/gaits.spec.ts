import { readFileSync } from 'node:fs';
import { expect, type Download, type Page } from '@playwright/test';
import { feetHold, holdAt, numberOf, openProject, picture, saved, stillPicture, test, typeValue, undo, chooseNothing } from './demo';

const page4 = (page: Page, name: 'Channels' | 'Styles' | 'Loop' | 'Compare') => page.getByRole('button', { name, exact: true }).click();
const section = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();
const read = async (download: Download): Promise<Buffer> => readFileSync(await download.path());

test('timing: cadence and frames a step are typed, limbs take turns in other ways, negative speed walks backward', async ({ page }) => {
  await openProject(page, 'Timing');
  await typeValue(page, 'Cadence, number', '100');
  await expect.poll(() => numberOf(page, 'Stride time (s), number')).toBeCloseTo(1.2, 3);
  await typeValue(page, 'Frames a step (fr), number', '12');
  await expect.poll(() => numberOf(page, 'Stride time (s), number')).toBeCloseTo(1, 3);
  await expect(page.getByText('24 fr', { exact: true })).toBeVisible();
  await expect(page.getByTestId('froude-scale')).toHaveAttribute('aria-label', /people walk here/);
  await typeValue(page, 'Speed (m/s), number', '2.6');
  await expect(page.getByTestId('froude-scale')).toHaveAttribute('aria-label', /people run here/);
  await typeValue(page, 'Speed (m/s), number', '-0.8');
  await expect.poll(() => numberOf(page, 'Stride length (m), number')).toBeCloseTo(-0.8, 2);
  await feetHold(page);
  await page.getByRole('button', { name: 'Walk', exact: true }).click();
  await page.getByRole('button', { name: 'Hop', exact: true }).click();
  await expect(page.getByRole('slider', { name: 'Right leg phase' }).first()).toHaveAttribute('aria-valuenow', '0');
  await feetHold(page);
  await page.getByRole('button', { name: 'Skip', exact: true }).click();
  await expect(page.getByTestId('footfall-chart').locator('[data-contact="left"]')).toHaveCount(4);
  await feetHold(page);
  await page.getByRole('button', { name: 'In turn', exact: true }).click();
  await expect(page.getByTestId('footfall-chart').locator('[data-contact="left"]')).toHaveCount(2);
});

test('walk to run in one control, as one step back; any two gaits mixed', async ({ page }) => {
  await openProject(page, 'Mixing');
  await page4(page, 'Styles');
  const slider = page.getByRole('slider', { name: 'From walk to run' });
  await slider.focus();
  for (let i = 0; i < 30; i++) await page.keyboard.press('Shift+ArrowRight');
  await feetHold(page);
  await typeValue(page, 'From walk to run, number', '1');
  await page4(page, 'Channels');
  await expect.poll(() => numberOf(page, 'Time on the ground (percent), number')).toBeCloseTo(33.4, 1);
  await expect.poll(() => numberOf(page, 'Speed (m/s), number')).toBeCloseTo(3, 1);
  await undo(page);
  await expect.poll(() => numberOf(page, 'Time on the ground (percent), number')).toBeCloseTo(60.5, 1);
  await page4(page, 'Styles');
  await page.getByRole('combobox', { name: 'Mixed with' }).click();
  await page.getByRole('option', { name: 'Heavy plod' }).click();
  await typeValue(page, 'Share of the other gait, percent', '50');
  await page4(page, 'Channels');
  await expect.poll(() => numberOf(page, 'Step width (cm), number')).toBe(14);
  await feetHold(page);
});

test.describe(() => {
  test.use({ contextOptions: { reducedMotion: 'no-preference' } });
  test('a gait of the library walks in miniature while it is seen', async ({ page }) => {
    await openProject(page, 'Miniatures');
    await page4(page, 'Styles');
    const film = page.locator('[data-own="false"][data-gait="Creep on tiptoe"] canvas');
    await film.scrollIntoViewIfNeeded();
    const first = await film.getAttribute('data-phase');
    await expect.poll(() => film.getAttribute('data-phase')).not.toBe(first);
  });
});

test('styles: at least seventeen; macros are lists of changes, applied in part', async ({ page }) => {
  await openProject(page, 'Styles');
  await page4(page, 'Styles');
  const shipped = page.locator('[data-own="false"][data-gait]');
  await expect.poll(() => shipped.count()).toBeGreaterThanOrEqual(17);
  const card = page.locator('[data-own="false"][data-gait="Creep on tiptoe"]');
  await card.scrollIntoViewIfNeeded();
  await card.getByRole('button', { name: 'Use Creep on tiptoe' }).click();
  await expect(page.getByRole('combobox', { name: 'Gait', exact: true })).toHaveText('Creep on tiptoe');
  await feetHold(page);

  await page.getByRole('combobox', { name: 'Gait', exact: true }).click();
  await page.getByRole('option', { name: 'Walk', exact: true }).click();
  await page.getByRole('button', { name: 'What Age changes' }).click();
  const changes = page.getByRole('group', { name: 'Changes of Age' });
  await changes.getByRole('checkbox', { name: /Stride length/ }).uncheck();
  await typeValue(page, 'Age, number', '1');
  await feetHold(page);
  await page4(page, 'Channels');
  await expect.poll(() => numberOf(page, 'Stride length (m), number')).toBeCloseTo(1.42, 2);
  await expect.poll(() => numberOf(page, 'Crouch (cm), number')).toBeCloseTo(5, 0);
  await undo(page);
  await expect.poll(() => numberOf(page, 'Crouch (cm), number')).toBe(1.6);
});

test('feet: rockers and the body’s sole are edited where the sole view shows them', async ({ page }) => {
  await openProject(page, 'Feet');
  await holdAt(page, 0.25);
  const flat = await stillPicture(page);
  await typeValue(page, 'Heel held up (degrees), number', '25');
  await expect.poll(() => picture(page)).not.toBe(flat);
  await feetHold(page);
  await undo(page);
  await expect.poll(() => picture(page)).toBe(flat);
  await typeValue(page, 'Toe tip ahead (cm), number', '26');
  await expect.poll(() => picture(page)).not.toBe(flat);
  await feetHold(page);
  await saved(page);
  await page.reload();
  await expect.poll(() => numberOf(page, 'Toe tip ahead (cm), number')).toBe(26);
});

test('follow-through changes the figure and closes; a slow look makes the loop longer', async ({ page }) => {
  await openProject(page, 'Following');
  await section(page, 'Follow-through');
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await holdAt(page, 0.2);
  const stiff = await picture(page);
  await typeValue(page, 'Forearms follow (percent), number', '100');
  await typeValue(page, 'Forearm frequency (Hz), number', '0.8');
  await expect.poll(() => picture(page)).not.toBe(stiff);
  await section(page, 'Head');
  await typeValue(page, 'Look around (degrees), number', '40');
  await expect(page.getByTestId('loop-length')).toContainText('4 strides');
  await page4(page, 'Loop');
  await expect(page.getByTestId('seam')).toContainText('within 0.000 mm');
});

test('props: the cart takes both hands, the lantern hangs from one', async ({ page }) => {
  await openProject(page, 'Props');
  await section(page, 'Props');
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await holdAt(page, 0.2);
  const empty = await picture(page);
  await page.getByRole('button', { name: 'Mail cart' }).click();
  await expect.poll(() => picture(page)).not.toBe(empty);
  await feetHold(page);
  await typeValue(page, 'Handle ahead (cm), number', '85');
  await expect(page.getByTestId('slide-gauge')).toContainText('note');
  await page.getByTestId('slide-gauge').click();
  await expect(page.getByText(/short of the handle/)).toBeVisible();
  await page.keyboard.press('Escape');
  const cart = await picture(page);
  await page.getByRole('button', { name: 'Lantern left' }).click();
  await expect.poll(() => picture(page)).not.toBe(cart);
});

test('dial and chart: key moments are moved, the chart scrubs, onion skins and trails are drawn', async ({ page }) => {
  await openProject(page, 'Moments');
  const down = page.getByRole('slider', { name: 'Left down' });
  const was = Number(await down.getAttribute('aria-valuenow'));
  await down.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => Number(await down.getAttribute('aria-valuenow'))).toBeLessThan(was - 0.01);
  await feetHold(page);
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await holdAt(page, 0.1);
  const chart = page.getByTestId('footfall-chart');
  const box = (await chart.boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.4, box.y + 20);
  await expect(page.getByTestId('time')).not.toContainText('frame 3 ');
  await page4(page, 'Loop');
  const plain = await stillPicture(page);
  await page.getByRole('button', { name: 'key poses' }).click();
  await expect.poll(() => picture(page)).not.toBe(plain);
  const skins = await picture(page);
  await page.getByRole('button', { name: 'every n frames' }).click();
  await typeValue(page, 'Onion skins every', '2');
  await expect.poll(() => picture(page)).not.toBe(skins);
  await page.getByRole('button', { name: 'off', exact: true }).click();
  await expect.poll(() => stillPicture(page)).toBe(plain);
  for (const trail of ['hips', 'head', 'knees', 'toes', 'hands']) {
    const before = await picture(page);
    await page.getByRole('button', { name: trail, exact: true }).click();
    await expect.poll(() => picture(page), trail).not.toBe(before);
  }
});

test('loop: whole frames are offered, pictures held on twos, and what files get is remembered', async ({ page }) => {
  await openProject(page, 'Loop');
  // Beside the timing: where a stride is no whole number of frames, the nearest that are.
  await expect(page.getByTestId('loop-length')).toContainText('25.20 frames');
  await expect(page.getByRole('button', { name: '12½ a step' })).toHaveAttribute('title', /speed \+0.8 %/);
  await page.getByRole('button', { name: '13 a step' }).click();
  await expect(page.getByTestId('loop-length')).toContainText('26 whole frames');
  await page4(page, 'Loop');
  await page.getByRole('group', { name: 'Frames held on the walkway' }).getByRole('button', { name: 'twos' }).click();
  await holdAt(page, 0.005);
  const first = await stillPicture(page);
  await page.keyboard.press('.');
  expect(await stillPicture(page)).toBe(first);
  await page.keyboard.press('.');
  await expect.poll(() => picture(page)).not.toBe(first);
  await page.getByRole('group', { name: 'Frames held in files' }).getByRole('button', { name: 'twos' }).click();
  await typeValue(page, 'Cycles in files', '2');
  await page.getByRole('checkbox', { name: 'Store the closing frame as well' }).check();
  await saved(page);
  await page.getByRole('link', { name: /Hand-over/ }).click();
  await chooseNothing(page);
  await page.getByRole('group', { name: 'Cycles' }).getByRole('checkbox', { name: 'Walk', exact: true }).check();
  await page.getByRole('button', { name: 'Write one file' }).click();
  // The rate is the transport's: 26 frames at 24 fps on twos, twice, and the closing one.
  await expect(page.getByText(/\b53\b/).first()).toBeVisible();
});

test('key pose sheet as SVG and PNG', async ({ page }) => {
  await openProject(page, 'Sheet');
  await page4(page, 'Loop');
  await expect(page.getByTestId('key-pose-sheet')).toBeVisible();
  const [svg] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save SVG' }).click()]);
  expect(svg.suggestedFilename()).toBe('walk.svg');
  const text = (await read(svg)).toString('utf8');
  const poses = await page.evaluate((source) => {
    const parsed = new DOMParser().parseFromString(source, 'image/svg+xml');
    return parsed.querySelector('parsererror') ? -1 : parsed.querySelectorAll('[data-moment]').length;
  }, text);
  expect(poses).toBe(16);
  const [png] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save PNG' }).click()]);
  const bytes = await read(png);
  expect(bytes.subarray(0, 8)).toEqual(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]));
  expect(bytes.readUInt32BE(16)).toBeGreaterThan(2000);
});

test('library: save, name, tag, find, hand out, bring in, remove and bring back', async ({ page }) => {
  await openProject(page, 'Library');
  await page4(page, 'Styles');
  const own = page.locator('[data-own="true"][data-gait]');
  await page.getByRole('button', { name: 'Make new from it: Walk', exact: true }).first().click();
  await page.getByLabel('Name of the new gait made from Walk').fill('Harbour walk');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'Gait', exact: true })).toHaveText('Harbour walk');
  await page.getByRole('button', { name: 'Description and tags' }).click();
  const fill = async (label: string, value: string) => {
    await page.getByLabel(label).fill(value);
    await page.getByLabel(label).press('Enter');
  };
  await fill('In one line', 'Down to the harbour and back.');
  await fill('Tags, with commas between', 'walk, harbour');
  await saved(page);
  await page.getByLabel('Find a gait').fill('harbour');
  await expect(own).toHaveCount(1);
  await page.getByLabel('Find a gait').fill('');
  await page.getByRole('button', { name: 'harbour', exact: true }).click();
  await expect(page.locator('[data-own="false"][data-gait]')).toHaveCount(0);
  await page.getByRole('button', { name: 'harbour', exact: true }).click();

  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export' }).click()]);
  const json = JSON.parse((await read(file)).toString('utf8')) as { name: string; format: string; feet: { lift: number } };
  expect(json).toMatchObject({ format: 'nimbret.gait', version: 3, name: 'Harbour walk' });
  json.name = 'From a file';
  json.feet.lift = 0.11;
  const bring = (content: string) =>
    page.getByTestId('gait-file').setInputFiles({ name: 'gait.json', mimeType: 'application/json', buffer: Buffer.from(content) });
  await bring(JSON.stringify(json));
  await expect(page.getByRole('combobox', { name: 'Gait', exact: true })).toHaveText('From a file');
  await bring('{"format":"nimbret.gait","version":2}');
  await expect(page.getByRole('region', { name: 'Gait library' }).getByRole('alert')).toContainText('gait.json');
  await expect(own).toHaveCount(5);

  await page.getByRole('button', { name: 'Remove From a file' }).click();
  await expect(own).toHaveCount(4);
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(own).toHaveCount(5);
  await page.reload();
  await feetHold(page);
  await page4(page, 'Styles');
  await expect(own).toHaveCount(5);
  await page4(page, 'Channels');
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(11);
});

test('saved states: one stands beside the gait as a ghost and in numbers, and is restored', async ({ page }) => {
  await openProject(page, 'States');
  await typeValue(page, 'Foot lift (cm), number', '20');
  await saved(page);
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await holdAt(page, 0.8);
  await page4(page, 'Compare');
  const alone = await stillPicture(page);
  await page.getByRole('button', { name: 'compare with state 1' }).click();
  await expect(page.getByTestId('state-comparison')).toContainText('Foot lift');
  await expect(page.getByRole('table', { name: 'Differences from state 1' })).toContainText('20.0 cm');
  await expect.poll(() => picture(page)).not.toBe(alone);
  await page.getByRole('button', { name: 'Hide ghost' }).click();
  await expect.poll(() => picture(page)).toBe(alone);
  await page.getByRole('button', { name: 'compare with state 1' }).click();
  await page.getByRole('button', { name: 'Restore state 1' }).click();
  await expect(page.getByText('The gait is as it was in state 1.')).toBeVisible();
  await saved(page);
  await page4(page, 'Channels');
  await expect.poll(() => numberOf(page, 'Foot lift (cm), number')).toBe(7.8);
});

test('plausibility: the natural walk lies where people do; a change is told by how much, and a run by its own values', async ({ page }) => {
  await openProject(page, 'Plausible');
  await page4(page, 'Compare');
  const panel = page.getByTestId('plausibility');
  await expect(panel).toContainText('Every value lies where people’s do');
  await expect(panel.locator('[data-joint]')).toHaveCount(3);
  await expect(panel.locator('[data-joint="knee"]')).toContainText(/knee: [0-5]\.\d° from the mean/);
  for (const joint of ['hip', 'knee', 'ankle']) {
    const drawn = await panel.getByRole('img', { name: new RegExp(joint) }).evaluate((c: HTMLCanvasElement) => {
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      let ink = 0;
      for (let i = 3; i < data.length; i += 4) if (data[i]! > 0) ink++;
      return ink / (data.length / 4);
    });
    expect(drawn).toBeGreaterThan(0.05);
  }
  await page4(page, 'Channels');
  await typeValue(page, 'Toe-out (degrees), number', '25');
  await page4(page, 'Compare');
  await expect(panel).toContainText('1 of');
  await expect(panel.getByRole('row', { name: /Toe-out/ })).toContainText('+15.0');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await expect(panel).toContainText('Joint angles of this run');
  await expect(panel.getByRole('row', { name: /Knee in swing/ })).toContainText('no');
});
