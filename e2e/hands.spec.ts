import { expect, type Page } from '@playwright/test';
import { feetHold, numberOf, openProject, saved, test, typeValue } from './demo';

const lift = 'Foot lift (cm), number';
const time = (page: Page) => page.getByTestId('time').textContent();

test('after typing and Enter the keys are the motion’s: undo, play, frames, contacts, the sheet; after a drag on the dial too', async ({ page }) => {
  await openProject(page, 'Keys after typing');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  for (const value of ['9', '10', '11']) await typeValue(page, lift, value);
  await page.keyboard.press('Control+z');
  expect(await numberOf(page, lift)).toBe(10);
  await page.keyboard.press('Control+Shift+z');
  expect(await numberOf(page, lift)).toBe(11);
  const before = await time(page);
  await page.keyboard.press('.');
  await expect.poll(() => time(page)).not.toBe(before);
  await page.keyboard.press(']');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');

  // A field that has the focus with nothing uncommitted hands undo to the document; with something, it keeps it.
  const field = page.getByRole('textbox', { name: lift, exact: true });
  await field.focus();
  await page.keyboard.press('Control+z');
  await expect.poll(() => numberOf(page, lift)).toBe(10);
  await field.pressSequentially('77');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  expect(await numberOf(page, lift)).toBe(10);

  // From a field straight to the dial: the drag takes the focus.
  await field.focus();
  const arc = page.getByRole('slider', { name: 'Left leg phase' });
  const dial = (await page.getByTestId('dial').boundingBox())!;
  const at = (phase: number, r: number): [number, number] => [
    dial.x + dial.width / 2 + Math.sin(phase * 2 * Math.PI) * r,
    dial.y + dial.height / 2 - Math.cos(phase * 2 * Math.PI) * r,
  ];
  const radius = (78 / 232) * dial.width;
  await page.mouse.move(...at(0.3, radius));
  await page.mouse.down();
  await page.mouse.move(...at(0.36, radius), { steps: 5 });
  await page.mouse.up();
  await expect(arc).not.toHaveAttribute('aria-valuenow', '0');
  await page.keyboard.press('Control+z');
  await expect(arc).toHaveAttribute('aria-valuenow', '0');
  // A switch that was clicked does not keep Space from playing.
  await page.getByLabel('weight', { exact: true }).click();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('one step for slider, box and wheel; Shift ten, Alt a tenth; the number shown is the number spoken', async ({ page }) => {
  await openProject(page, 'Steps of values');
  const slider = page.getByRole('slider', { name: 'Stride time (s)', exact: true });
  const box = 'Stride time (s), number';
  const is = (v: number) => expect.poll(() => numberOf(page, box)).toBeCloseTo(v, 3);
  await slider.focus();
  for (const [key, value] of [
    ['ArrowRight', 1.06],
    ['Shift+ArrowRight', 1.16],
    ['Alt+ArrowLeft', 1.159],
    ['Shift+ArrowLeft', 1.059],
    ['ArrowDown', 1.049],
  ] as const) {
    await page.keyboard.press(key);
    await is(value);
  }
  await expect(slider).toHaveAttribute('aria-valuetext', '1.049 seconds');
  const field = page.getByRole('textbox', { name: box, exact: true });
  await field.focus();
  for (const [key, value] of [
    ['ArrowUp', 1.059],
    ['Shift+ArrowUp', 1.159],
    ['Alt+ArrowDown', 1.158],
  ] as const) {
    await page.keyboard.press(key);
    await is(value);
  }
  await field.hover();
  await page.mouse.wheel(0, -100);
  await is(1.168);
  await page.mouse.wheel(0, 100);
  await is(1.158);
});

test('what is out of reach is taken to the nearest with a word, units may be typed, nonsense flashes, the follower shows beforehand', async ({ page }) => {
  await openProject(page, 'Refusals');
  const said = page.locator('[data-strip] [role="status"]');
  await typeValue(page, 'Speed (m/s), number', '11');
  await expect(said).toHaveText('stride time held: at most 5.71 m/s');
  expect(await numberOf(page, 'Speed (m/s), number')).toBeCloseTo(5.71, 2);
  await page.keyboard.press('Control+z');
  await typeValue(page, lift, '70 mm');
  expect(await numberOf(page, lift)).toBe(7);
  await typeValue(page, 'Stride time (s), number', '24 fr');
  await expect.poll(() => numberOf(page, 'Stride time (s), number')).toBe(1);
  await typeValue(page, lift, 'a lot');
  await expect(said.last()).toHaveText('“a lot” is no number');
  // It stays to be mended, and Escape gives it up.
  const field = page.getByRole('textbox', { name: lift, exact: true });
  await expect(field).toHaveValue('a lot');
  await expect(field).toHaveAttribute('aria-invalid', 'true');
  await field.press('Escape');
  expect(await numberOf(page, lift)).toBe(7);
  await typeValue(page, lift, '999');
  await expect(said.filter({ hasText: 'at most 60' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Speed (m/s), number', exact: true }).focus();
  await expect(page.locator('[data-strip="timing.strideLength"]')).toContainText('follows');
  await expect(page.locator('[data-strip="timing.strideTime"]')).not.toContainText('follows');
});

test('a copy is named in the act and leaves the original; renaming, replacing and starting again say what they do', async ({ page }) => {
  await openProject(page, 'Copies');
  await page.getByRole('button', { name: 'Styles', exact: true }).click();
  const row = (name: string) => page.locator(`[data-own="true"][data-gait="${name}"]`);
  await row('Walk').getByRole('button', { name: 'Make new from it: Walk' }).click();
  await page.getByLabel('Name of the new gait made from Walk').fill('Marlo tired');
  await page.keyboard.press('Enter');
  await expect(row('Walk')).toBeVisible();
  await expect(row('Marlo tired')).toContainText('in use');
  await row('Walk').getByRole('button', { name: 'Rename Walk' }).click();
  await page.getByLabel('New name for Walk').fill('Walk of the house');
  await page.keyboard.press('Enter');
  await expect(row('Walk of the house')).toBeVisible();
  await row('Run')
    .getByRole('button', { name: /^Replace current values by Run/ })
    .click();
  await expect(page.getByText('The values of “Marlo tired” were replaced by those of “Run”.')).toBeVisible();
  await page.locator('.MuiSnackbar-root').getByRole('button', { name: 'Take it back' }).click();
  await row('Sneak').getByRole('button', { name: 'Remove Sneak' }).click();
  await expect(row('Sneak')).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(row('Sneak')).toBeVisible();
  await saved(page);
  await page.getByRole('button', { name: 'Channels', exact: true }).click();
  const speed = await numberOf(page, 'Speed (m/s), number');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await expect(page.getByText(/were replaced by those of Run/)).toBeVisible();
  await page.keyboard.press('Control+z');
  expect(await numberOf(page, 'Speed (m/s), number')).toBe(speed);
});

test('stations, views, switches, loop, speed, home and end have keys', async ({ page }) => {
  await openProject(page, 'All keys');
  await page.keyboard.press('f');
  await expect(page.getByRole('button', { name: 'front', exact: true })).toHaveAttribute('aria-pressed', 'true');
  for (const [key, name] of [
    ['m', 'treadmill'],
    ['w', 'weight'],
    ['r', 'loop'],
  ] as const) {
    const was = await page.getByLabel(name, { exact: true }).isChecked();
    await page.keyboard.press(key);
    await expect(page.getByLabel(name, { exact: true })).toBeChecked({ checked: !was });
  }
  await page.keyboard.press('-');
  await expect(page.getByText('0.9×')).toBeVisible();
  await page.keyboard.press('0');
  await expect(page.getByText('1.0×')).toBeVisible();
  await page.keyboard.press('End');
  await expect(page.getByTestId('time')).toContainText('frame 26');
  await page.keyboard.press('Home');
  await expect(page.getByTestId('time')).toContainText('frame 1 ');
  await page.keyboard.press('4');
  await expect(page).toHaveURL(/\/directions$/);
});

test('keys play again after a choice from a list by mouse; a list reached by keyboard keeps its own letters, not the signs', async ({ page }) => {
  await openProject(page, 'Lists');
  const playing = () => page.getByRole('button', { name: 'Pause', exact: true }).isVisible();
  expect(await playing()).toBe(false);
  await page.getByRole('combobox', { name: 'Gait', exact: true }).click();
  await page.getByRole('option', { name: 'Run', exact: true }).click();
  await page.keyboard.press('Space');
  await expect.poll(playing).toBe(true);
  await page.keyboard.press('Space');
  await expect.poll(playing).toBe(false);
  await page.getByRole('combobox', { name: 'Body', exact: true }).focus();
  await page.keyboard.press('Tab');
  await expect(page.getByRole('combobox', { name: 'Gait', exact: true })).toBeFocused();
  await page.keyboard.press('Space');
  await expect(page.getByRole('listbox')).toBeVisible();
  expect(await playing()).toBe(false);
  // Chosen from by keyboard it keeps the focus, its letters and digits; the signs step frames all the same.
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listbox')).toHaveCount(0);
  await expect(page.getByRole('combobox', { name: 'Gait', exact: true })).toBeFocused();
  const time = await page.getByTestId('time').textContent();
  await page.keyboard.press('.');
  await expect(page.getByTestId('time')).not.toHaveText(time!);
  await page.keyboard.press('2');
  await expect(page).toHaveURL(/\/cycle$/);
});

test('undo says what it took back and where, with a way there; what is removed is told with the way back', async ({ page }) => {
  await openProject(page, 'Told', 'steps');
  await page.getByRole('tab', { name: 'ground' }).click();
  await page.getByRole('button', { name: 'Stairs' }).click();
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', 'Undo: add stairs (Steps)');
  await saved(page);
  await page.getByRole('link', { name: /Cycle/ }).click();
  await expect(page).toHaveURL(/\/cycle$/);
  await feetHold(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  const notice = page.locator('.MuiSnackbar-root');
  await expect(notice).toContainText('Undone: add stairs (Steps)');
  await notice.getByRole('button', { name: 'Go there' }).click();
  await expect(page).toHaveURL(/\/steps$/);
  await page.keyboard.press('Control+Shift+z');
  await expect(notice).toContainText('Done again: add stairs (Steps)');
  await page.getByRole('tab', { name: 'ground' }).click();
  await page.getByRole('button', { name: 'Remove Stairs' }).click();
  await expect(notice).toContainText('Removed: Stairs');
  await notice.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByRole('button', { name: 'Remove Stairs' })).toBeVisible();
});

test('lengths, times and angles of a walk are typed in their units and as sums; a new walk goes to its end under a name of its own', async ({ page }) => {
  await openProject(page, 'Units', 'steps');
  await page.getByRole('button', { name: 'New', exact: true }).click();
  await page.getByRole('textbox', { name: 'Name of the new walk' }).fill('Over the bar');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('combobox', { name: 'Walk', exact: true })).toHaveText('Over the bar');
  await expect(page.getByRole('switch', { name: 'To the end of the course' })).toBeChecked();
  await page.getByRole('tab', { name: 'course' }).click();
  const left = 'Knot 1 to the left (m)';
  for (const [typed, value] of [
    ['1.5 m', 1.5],
    ['120 cm', 1.2],
    ['1,1', 1.1],
    ['1 m + 30 cm', 1.3],
  ] as const) {
    await typeValue(page, left, typed);
    await expect.poll(() => numberOf(page, left)).toBe(value);
  }
  await typeValue(page, 'Turn at knot 1 (°)', '90°');
  await expect.poll(() => numberOf(page, 'Turn at knot 1 (°)')).toBe(90);
  await page.getByRole('tab', { name: 'tracks' }).click();
  await page.getByRole('button', { name: 'Add a rest' }).click();
  await typeValue(page, 'Rest 1 for (s)', '36 fr');
  await expect.poll(() => numberOf(page, 'Rest 1 for (s)')).toBe(1.5);
});
