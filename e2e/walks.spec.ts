import { expect, type Page } from '@playwright/test';
import { feetHold, holdAt, openProject, picture, saved, test, typeValue, undo } from './demo';

const ribbon = (page: Page) => page.getByTestId('ribbon');
const toPage = (page: Page, name: string) => page.getByRole('tab', { name }).click();
const number = (page: Page, label: string) => page.getByRole('textbox', { name: label, exact: true });
/** Told of the walk: how many steps, how long, how far. */
const told = (page: Page) => page.getByText(/From standing to standing/);

/** Drags something on the ribbon by so many pixels. */
async function drag(page: Page, selector: string, dx: number, dy: number): Promise<void> {
  const box = (await ribbon(page).locator(selector).first().boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx / 2, y + dy / 2, { steps: 3 });
  await page.mouse.move(x + dx, y + dy, { steps: 3 });
  await page.mouse.up();
}

async function courseWalk(page: Page, name: string): Promise<string> {
  const id = await openProject(page, name, 'steps');
  await page.getByRole('switch', { name: 'To the end of the course' }).click();
  await expect(ribbon(page).locator('[data-print]').first()).toBeVisible();
  // The walk is planned anew: eight metres straight on.
  await expect(told(page)).toContainText('over 8.00 m');
  return id;
}

test('a course is drawn on the ribbon and typed: the walk follows, one drag is one step back, and it is there again after a reload', async ({ page }) => {
  const id = await courseWalk(page, 'Course');
  const before = await told(page).textContent();
  await drag(page, '[data-knot-mark="1"]', 0, -50);
  await toPage(page, 'course');
  expect(Number(await number(page, 'Knot 1 to the left (m)').inputValue())).toBeGreaterThan(0.3);
  await toPage(page, 'rules');
  await expect(told(page)).not.toHaveText(before!);
  await undo(page);
  await expect(told(page)).toHaveText(before!);
  // A new knot where the rope is double-clicked, then one with a turn on the spot.
  const knots = ribbon(page).locator('[data-knot-mark]');
  const [a, b] = await Promise.all([knots.nth(0).boundingBox(), knots.nth(1).boundingBox()]);
  await ribbon(page).dblclick({
    position: { x: (a!.x + b!.x) / 2 + 8 - (await ribbon(page).boundingBox())!.x, y: a!.y + a!.height / 2 - (await ribbon(page).boundingBox())!.y },
  });
  await expect(knots).toHaveCount(3);
  await toPage(page, 'course');
  await number(page, 'Turn at knot 2 (°)').fill('90');
  await number(page, 'Turn at knot 2 (°)').press('Enter');
  await expect(ribbon(page).getByText('turn 90°')).toBeVisible();
  await feetHold(page);
  await saved(page);
  await page.goto(`/p/${id}/steps`);
  await expect(knots).toHaveCount(3);
  await expect(ribbon(page).getByText('turn 90°')).toBeVisible();
});

test('the figure faces one way or a place while it goes another: typed, dragged, taken back', async ({ page }) => {
  await courseWalk(page, 'Facing');
  await drag(page, '[data-knot-mark="1"]', -60, -50);
  await toPage(page, 'rules');
  const before = await told(page).textContent();
  await toPage(page, 'course');
  await page.getByRole('combobox', { name: 'Faces' }).click();
  await page.getByRole('option', { name: 'in one direction' }).click();
  await typeValue(page, 'Faces in direction (°)', '90');
  await toPage(page, 'rules');
  // To the side steps are shorter: it takes longer.
  await expect(told(page)).not.toHaveText(before!);
  await feetHold(page);
  await toPage(page, 'course');
  await page.getByRole('combobox', { name: 'Faces' }).click();
  await page.getByRole('option', { name: 'a place' }).click();
  const left = () => number(page, 'Faces place to the left (m)').inputValue().then(Number);
  const was = await left();
  await expect(page.getByRole('listbox')).toBeHidden();
  // The place may lie outside of what is seen.
  await page.getByRole('button', { name: 'whole' }).click();
  await drag(page, '[data-faced]', 0, -20);
  await expect.poll(left).toBeGreaterThan(was + 0.1);
  await feetHold(page);
  await undo(page);
  await expect.poll(left).toBe(was);
});

test('a walk begins in full stride and ends so, at a picture of a gait’s cycle', async ({ page }) => {
  await courseWalk(page, 'In stride');
  const standing = await told(page).textContent();
  await page.getByRole('combobox', { name: 'Begins in' }).click();
  await page.getByRole('option', { name: 'in stride, its own gait' }).click();
  const begun = page.getByText(/From stride to standing/);
  await expect(begun).toBeVisible();
  const time = (words: string | null) => Number(words!.match(/([\d.]+) s over/)![1]);
  // It need not get going.
  expect(time(await begun.textContent())).toBeLessThan(time(standing));
  await typeValue(page, 'Begins at phase (%)', '25');
  await page.getByRole('combobox', { name: 'Ends in' }).click();
  await page.getByRole('option', { name: 'in stride, Run', exact: true }).click();
  await expect(page.getByText(/From stride to stride/)).toBeVisible();
  await feetHold(page);
});

test('ground is put down, moved and sized; the feet follow it and hold', async ({ page }) => {
  await courseWalk(page, 'Ground');
  await holdAt(page, 0.6);
  const level = await picture(page);
  await toPage(page, 'ground');
  await page.getByRole('button', { name: 'Stairs' }).click();
  await expect(ribbon(page).getByText('8 up')).toBeVisible();
  await expect.poll(() => picture(page)).not.toBe(level);
  await number(page, 'Stairs riser (m)').fill('0.15');
  await number(page, 'Stairs riser (m)').press('Enter');
  await typeValue(page, 'Stairs count ()', '5');
  await expect(ribbon(page).getByText('5 up')).toBeVisible();
  await feetHold(page);
  const left = () => number(page, 'Stairs to the left (m)').inputValue().then(Number);
  await drag(page, '[data-ground="Stairs"]', 0, -20);
  await expect.poll(left).toBeGreaterThan(0.1);
  await undo(page);
  await expect.poll(left).toBe(0);
  await page.getByRole('button', { name: 'Remove Stairs' }).click();
  await page.getByRole('button', { name: 'Slope' }).click();
  await expect(ribbon(page).getByText('8°')).toBeVisible();
  await feetHold(page);
});

test('a print is moved, turned and reset by mouse, keys and numbers; what cannot be reached says so', async ({ page }) => {
  await openProject(page, 'Prints', 'steps');
  const print = '[data-print="4"]';
  await ribbon(page).locator(print).click({ force: true });
  await expect(page.getByText('Print of step 4')).toBeVisible();
  const along = number(page, 'Print 4 along (m)');
  await drag(page, `${print} path`, 12, 0);
  await expect.poll(async () => Number(await along.inputValue())).toBeGreaterThan(0.05);
  await undo(page);
  await expect(along).toHaveValue('0.000');
  await ribbon(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowUp');
  await expect(along).toHaveValue('0.010');
  await expect(number(page, 'Print 4 left (m)')).toHaveValue('0.100');
  await page.keyboard.press('q');
  await expect(number(page, 'Print 4 turned (°)')).toHaveValue('1');
  // Two at once, by one key each.
  await ribbon(page)
    .locator('[data-print="6"] path')
    .first()
    .click({ modifiers: ['Shift'], force: true });
  await expect(page.getByText('Print of step 6 and 1 more')).toBeVisible();
  await ribbon(page).focus();
  await page.keyboard.press('ArrowRight');
  await expect(number(page, 'Print 6 along (m)')).toHaveValue('0.010');
  await page.getByRole('region', { name: 'Footholds' }).locator('tbody tr').nth(3).click();
  await expect(along).toHaveValue('0.020');
  await feetHold(page);
  await typeValue(page, 'Print 4 along (m)', '0.9');
  await expect(page.getByText(/Step 4, [LR]: \d+ mm too far to reach/)).toBeVisible();
  await page.getByRole('button', { name: 'Reset it' }).click();
  await expect(page.getByText(/too far to reach/)).toBeHidden();
});

test('prints are put in and left out, given times, a gait and a mark of their own, carried to another walk, freed and tied again', async ({ page }) => {
  await openProject(page, 'Own prints', 'steps');
  const prints = () => ribbon(page).locator('[data-print]').count();
  const steps = async () =>
    (await told(page).textContent())!
      .match(/(\d+) steps, ([\d.]+) s/)!
      .slice(1)
      .map(Number);
  const rows = page.getByRole('region', { name: 'Footholds' }).locator('tbody tr');
  const button = (name: string) => page.getByRole('button', { name, exact: true });
  const [count, time] = (await steps()) as [number, number];
  const all = await prints();
  await toPage(page, 'prints');
  await rows.nth(3).click();
  await expect(page.getByText('Print of step 4')).toBeVisible();
  // One more, one less, by button and key.
  await button('Add before').click();
  await expect.poll(prints).toBe(all + 1);
  await expect(page.getByText('Print of step 4, put in')).toBeVisible();
  await ribbon(page).focus();
  await page.keyboard.press('Delete');
  await expect.poll(prints).toBe(all);
  await rows.nth(5).click();
  await button('Leave out').click();
  await expect.poll(prints).toBe(all - 1);
  await undo(page);
  await expect.poll(prints).toBe(all);
  // Times of its own, and another gait.
  await rows.nth(4).click();
  await typeValue(page, 'Print 5 longer (s)', '0.6');
  await toPage(page, 'rules');
  expect(await steps()).toEqual([count, Number((time + 0.6).toFixed(2))]);
  await toPage(page, 'prints');
  await page.getByRole('combobox', { name: 'Gait of step 5' }).click();
  await page.getByRole('option', { name: 'Sneak' }).click();
  await feetHold(page);
  // Its changes on a print of another walk.
  await button('Copy').click();
  await button('New').click();
  await toPage(page, 'prints');
  await rows.nth(2).click();
  await button('Paste').click();
  await expect(number(page, 'Print 3 longer (s)')).toHaveValue('0.60');
  await expect(page.getByRole('combobox', { name: 'Gait of step 3' })).toHaveText('Sneak');
  await page.getByRole('button', { name: 'Reset all' }).click();
  await expect(number(page, 'Print 3 longer (s)')).toHaveValue('0.00');
  // A mark to hit stays where it is while the walk begins elsewhere and goes at another pace.
  await page.getByRole('switch', { name: /Mark to hit/ }).click();
  const mark = ['Mark 3 ahead (m)', 'Mark 3 left (m)', 'Mark 3 frame (fr)'];
  await typeValue(page, 'Mark 3 frame (fr)', '61');
  await expect(number(page, 'Mark 3 time (s)')).toHaveValue('2.500');
  await typeValue(page, 'Mark 3 left (m)', '0.2');
  const row = () => rows.nth(2).locator('td').allTextContents();
  await expect.poll(async () => [(await row())[3], (await row())[5]]).toEqual(['0.200', '2.50']);
  expect((await row())[2]).toBe(await number(page, mark[0]!).inputValue());
  await feetHold(page);
  // Freed, they lie as they lay, and a print is moved alone; tied again, the course has them back.
  const before = await rows.allTextContents();
  await button('Free all').click();
  await expect(button('Tie to the course')).toBeVisible();
  expect(await rows.allTextContents()).toEqual(before);
  await typeValue(page, 'Print 3 left (m)', '0.12');
  await expect.poll(async () => (await row())[3]).toBe('0.120');
  expect((await rows.allTextContents()).filter((text, i) => text !== before[i])).toHaveLength(1);
  await feetHold(page);
  await button('Tie to the course').click();
  await expect.poll(() => rows.allTextContents()).toEqual(before);
});

test('a print is dragged on the walkway: it follows the pointer over the ground, as one step back', async ({ page }) => {
  await openProject(page, 'Prints on the walkway', 'steps');
  await holdAt(page, 0);
  await page.getByRole('button', { name: 'top', exact: true }).click();
  await toPage(page, 'prints');
  const rows = page.getByRole('region', { name: 'Footholds' }).locator('tbody tr');
  const before = await rows.allTextContents();
  const canvas = page.getByTestId('walkway').locator('canvas[data-engine]');
  const box = (await canvas.boundingBox())!;
  // Looked for where the pointer says that it can be taken.
  const found = await (async () => {
    for (let y = 0.47; y < 0.55; y += 0.01)
      for (let x = 0.56; x < 0.76; x += 0.02) {
        await page.mouse.move(box.x + box.width * x, box.y + box.height * y);
        if ((await canvas.evaluate((c) => c.style.cursor)) === 'grab') {
          await page.mouse.down();
          await page.mouse.up();
          if (await page.getByText(/^Print of step/).isVisible()) return [box.x + box.width * x, box.y + box.height * y] as const;
        }
      }
    throw new Error('no print under the pointer');
  })();
  const step = Number((await page.getByText(/^Print of step/).textContent())!.match(/\d+/)![0]);
  await page.mouse.move(...found);
  await page.mouse.down();
  await page.mouse.move(found[0] + 10, found[1] - 8, { steps: 4 });
  await page.mouse.up();
  const moved = async () => (await rows.allTextContents()).flatMap((text, i) => (text === before[i] ? [] : [i + 1]));
  await expect.poll(moved).toContain(step);
  await undo(page);
  await expect.poll(moved).toEqual([]);
});

test('tracks: a gait on the way, a rest, a pace whose post is dragged on the chart', async ({ page }) => {
  await courseWalk(page, 'Tracks');
  await toPage(page, 'tracks');
  const chart = page.getByTestId('walk-chart');
  await page.getByRole('button', { name: 'chart', exact: true }).click();
  await expect(chart.locator('[data-contact="left"]').first()).toBeVisible();
  const contacts = () => chart.getAttribute('aria-label');
  const plain = await contacts();
  // The slide of each contact, as it was measured.
  await expect(chart.getByTestId('chart-slides').locator('text').first()).toHaveText(/^0\.0[0-4]$/);
  await page.getByRole('button', { name: 'Add a rest' }).click();
  await expect(chart.getByText('rests 2.00 s')).toBeVisible();
  await expect.poll(contacts).not.toBe(plain);
  await page.getByRole('button', { name: 'Add a gait' }).click();
  await page.getByRole('combobox', { name: 'Gait 1 of the walk' }).click();
  await page.getByRole('option', { name: 'Sneak' }).click();
  await expect(chart.getByText('Sneak')).toBeVisible();
  await page.getByRole('button', { name: 'Add keys: pace' }).click();
  const pace = number(page, 'Pace key 1 (m/s)');
  await expect(pace).toHaveValue('1.20');
  const post = (await chart.locator('[data-post="pace 0"]').boundingBox())!;
  await page.mouse.move(post.x + 8, post.y + 8);
  await page.mouse.down();
  await page.mouse.move(post.x + 8, post.y + 14, { steps: 3 });
  await page.mouse.up();
  await expect.poll(async () => Number(await pace.inputValue())).toBeLessThan(1.2);
  await feetHold(page);
  await undo(page);
  await expect(pace).toHaveValue('1.20');
});

test('walks come and go, each with its own course, and undo brings one back', async ({ page }) => {
  await openProject(page, 'Walks', 'steps');
  const list = page.getByRole('combobox', { name: 'Walk', exact: true });
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(list).toHaveText('Along the causeway 2');
  await typeValue(page, 'Number of steps, number', '4');
  await list.click();
  await page.getByRole('option', { name: 'Along the causeway', exact: true }).click();
  await expect(number(page, 'Number of steps, number')).toHaveValue('10');
  // The list in another order, which is saved.
  await list.click();
  await expect(page.getByRole('option')).toHaveText(['Along the causeway', 'Along the causeway 2']);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Later in the list' }).click();
  await list.click();
  await expect(page.getByRole('option')).toHaveText(['Along the causeway 2', 'Along the causeway']);
  await page.keyboard.press('Escape');
  // Both at once: two figures on one spot stand in each other, and the chart says so.
  await page.getByRole('combobox', { name: 'Walk beside it' }).click();
  await page.getByRole('option', { name: 'Along the causeway 2' }).click();
  await page.getByRole('button', { name: 'chart', exact: true }).click();
  await expect(page.getByTestId('apart')).toHaveText(/^−\d+ mm$/);
  await page.getByRole('button', { name: 'Remove' }).click();
  await expect(list).toHaveText('Along the causeway 2');
  await expect(page.getByRole('button', { name: 'Remove' })).toBeDisabled();
  await undo(page);
  await expect(list).toHaveText('Along the causeway');
});

test('the way is found round what stands there; where there is none the reason is told', async ({ page }) => {
  await courseWalk(page, 'Way');
  await toPage(page, 'ground');
  await page.getByRole('button', { name: 'Obstacle' }).click();
  await typeValue(page, 'Obstacle ahead (m)', '4');
  await typeValue(page, 'Obstacle long (m)', '1.6');
  await toPage(page, 'course');
  await page.getByRole('button', { name: 'Find a course round obstacles' }).click();
  await expect(page.getByText(/A course of \d+\.\d m was found/)).toBeVisible();
  expect(await ribbon(page).locator('[data-knot-mark]').count()).toBeGreaterThan(2);
  await page.getByRole('switch', { name: 'Facing there' }).click();
  await typeValue(page, 'Facing at the end (°)', '90');
  await page.getByRole('button', { name: 'Find a course round obstacles' }).click();
  await expect(ribbon(page).getByText(/^turn \d+°$/)).toBeVisible();
  await feetHold(page);
  await toPage(page, 'ground');
  await typeValue(page, 'Obstacle ahead (m)', '8');
  await toPage(page, 'course');
  await page.getByRole('button', { name: 'Find a course round obstacles' }).click();
  await expect(page.getByText(/No course was found: the goal itself has no room/)).toBeVisible();
});

test('a figure is led over the walkway by pointer and keys, stands when it is let stand, and what it walked is kept as a walk', async ({ page }) => {
  await openProject(page, 'Led', 'steps');
  await page.getByRole('button', { name: 'Lead it' }).click();
  // A walk led from standing is kept from there on.
  const bar = page.getByTestId('lead-bar');
  const status = bar.getByRole('status');
  const steps = async () => Number(await status.getAttribute('data-led-steps'));
  await expect(bar.getByRole('button', { name: 'Keep as a walk' })).toBeDisabled();
  const box = (await page.getByTestId('walkway').boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.75, box.y + box.height * 0.62);
  await expect.poll(steps).toBeGreaterThan(4);
  await expect(status).toHaveText(/[1-9]\d* steps, \d\.\d m\/s/);
  // From here on, by keys; Escape lets it stand.
  await bar.getByRole('button', { name: 'From here on' }).click();
  await expect.poll(steps).toBeLessThan(4);
  await page.mouse.move(5, 5);
  await page.keyboard.down('ArrowUp');
  await expect.poll(steps).toBeGreaterThan(4);
  await page.keyboard.up('ArrowUp');
  await page.keyboard.press('Escape');
  let before = -1;
  await expect
    .poll(
      async () => {
        const same = before === (await steps());
        before = await steps();
        return same;
      },
      { intervals: [2500] },
    )
    .toBe(true);
  await bar.getByRole('button', { name: 'Keep as a walk' }).click();
  await expect(page.getByRole('combobox', { name: 'Walk', exact: true })).toHaveText('Led walk');
  // It begins standing; the shot begins where what counts did.
  const kept = Number((await told(page).textContent())!.match(/(\d+) steps/)![1]);
  expect(kept).toBeGreaterThan(before);
  expect(Number(await number(page, 'Shot from (s)').inputValue())).toBeGreaterThan(1);
  await feetHold(page);
  await undo(page);
  await expect(page.getByRole('combobox', { name: 'Walk', exact: true })).not.toHaveText('Led walk');
});
