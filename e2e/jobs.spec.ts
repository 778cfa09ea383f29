import { expect, type Locator, type Page } from '@playwright/test';
import { feetHold, numberOf, recorded, test } from './demo';

// A new project is to be seen walking.
test.use({ contextOptions: { reducedMotion: 'no-preference' } });

/** Most actions of each of the ten commonest jobs: a click, a drag, something typed with Enter is one. */
const MOST = {
  'new project walking': 2,
  'choose body': 2,
  'set stride': 1,
  limp: 2,
  'save as': 2,
  'bent course': 3,
  'stairs on it': 5,
  'walk to run': 5,
  'lock feet': 3,
  'hand over all': 3,
} as const;
type Job = keyof typeof MOST;

/** Hands that count what they do. */
class Counted {
  private actions = 0;
  readonly counted: Partial<Record<Job, number>> = {};
  constructor(private readonly page: Page) {}

  async click(target: Locator): Promise<void> {
    this.actions++;
    await target.click();
  }
  async fill(target: Locator, text: string): Promise<void> {
    this.actions++;
    await target.fill(text);
    await target.press('Enter');
  }
  /** Keys alone, to whatever has the focus. */
  async type(text: string): Promise<void> {
    this.actions++;
    await this.page.keyboard.type(text);
    await this.page.keyboard.press('Enter');
  }
  /** Ends a job: what it should have come to is looked for, and what it took is kept. */
  async done(job: Job, seen: () => Promise<void>): Promise<void> {
    await seen();
    this.counted[job] = this.actions;
    expect(this.actions, job).toBeGreaterThan(0);
    expect(this.actions, `actions of: ${job}`).toBeLessThanOrEqual(MOST[job]);
    this.actions = 0;
  }
  allDone(): void {
    expect(Object.keys(this.counted)).toEqual(Object.keys(MOST));

    console.log(
      Object.entries(this.counted)
        .map(([job, n]) => `${job} ${n}`)
        .join(', '),
    );
  }
}

const shown = (page: Page, label: string) => page.getByRole('combobox', { name: label, exact: true });
const ribbon = (page: Page) => page.getByTestId('ribbon');

const walking = async (page: Page, name: string) => {
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await feetHold(page);
  const time = () => page.getByTestId('time').textContent();
  const before = await time();
  await expect.poll(time).not.toBe(before);
};
const bent = (page: Page) => expect(ribbon(page)).toHaveAttribute('aria-label', /3 knots/);
const stairs = (page: Page) => expect(page.locator('[data-ground="Stairs"]')).toBeVisible();
const intoRun = (page: Page) => expect(shown(page, 'Gait 1 of the walk')).toHaveText('Run');
const locked = async (page: Page) => {
  await expect(page.getByTestId('slide-gauge')).toContainText('feet hold');
  await expect(page.getByTestId('lock-facts')).toContainText('locked');
};
/** All that the project has: five gaits, one walk, eight directions and their twins, the clip. */
const written = async (page: Page) => {
  await expect(page.getByRole('link', { name: /^Save .*\.zip/ })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText(/^(\d+) of \1 chosen$/)).toBeVisible();
};
/** A recording to be locked: bringing it in is another job. */
async function withClip(page: Page): Promise<void> {
  await page.getByRole('link', { name: /Travel/ }).click();
  await page.getByLabel('Motion files').setInputFiles(recorded(2752));
  await expect(page.getByTestId('clip-chart')).toHaveAttribute('aria-label', /27 contacts/);
  await page.getByRole('link', { name: /Cycle/ }).click();
  await feetHold(page);
}

test('the ten commonest jobs by mouse', async ({ page }) => {
  test.setTimeout(240_000);
  const hands = new Counted(page);
  const button = (name: string | RegExp) => page.getByRole('button', { name, exact: typeof name === 'string' });
  const option = (name: string | RegExp) => page.getByRole('option', { name });
  const station = (name: string) => page.getByRole('link', { name: new RegExp(name) });
  const tab = (name: string) => page.getByRole('tab', { name });
  await page.goto('/');
  await hands.fill(page.getByLabel('Name of a new project'), 'Jobs by mouse');
  await hands.done('new project walking', () => walking(page, 'Jobs by mouse'));

  await hands.click(shown(page, 'Body'));
  await hands.click(option(/Pip/));
  await hands.done('choose body', () => expect(shown(page, 'Body')).toContainText('Pip'));

  await hands.fill(page.getByRole('textbox', { name: 'Stride length (m), number' }), '1.1');
  await hands.done('set stride', () => expect.poll(() => numberOf(page, 'Stride length (m), number')).toBe(1.1));

  await hands.click(button('Styles'));

  await hands.click(button('Use Limp'));
  await hands.done('limp', () => expect(shown(page, 'Gait')).toHaveText('Limp'));

  await hands.click(button('Save as…'));
  await hands.fill(page.getByLabel('Name of the new gait'), 'Sore knee');
  await hands.done('save as', () => expect(shown(page, 'Gait')).toHaveText('Sore knee'));

  await hands.click(station('Steps'));
  await hands.click(tab('course'));
  await hands.click(button('Bend'));
  await hands.done('bent course', () => bent(page));

  await hands.click(tab('ground'));
  await hands.click(button('Stairs'));
  await hands.done('stairs on it', () => stairs(page));

  await hands.click(tab('tracks'));
  await hands.click(button('Add a gait'));
  await hands.click(shown(page, 'Gait 1 of the walk'));
  await hands.click(option('Run'));
  await hands.done('walk to run', () => intoRun(page));

  await withClip(page);
  await hands.click(station('Travel'));
  await hands.click(tab('feet'));
  await hands.click(page.getByRole('switch', { name: 'Lock the feet' }));
  await hands.done('lock feet', () => locked(page));

  await hands.click(station('Hand-over'));
  await hands.click(page.getByRole('checkbox', { name: 'all', exact: true }));
  await hands.click(button(/^Write \d+ files$/));
  await hands.done('hand over all', () => written(page));
  hands.allDone();
});

test('the ten commonest jobs by keyboard', async ({ page }) => {
  test.setTimeout(240_000);
  const hands = new Counted(page);
  await page.goto('/');
  await expect(page.getByLabel('Name of a new project')).toBeFocused();
  await hands.type('Jobs by keyboard');
  await hands.done('new project walking', () => walking(page, 'Jobs by keyboard'));

  await hands.type('/pip');
  await hands.done('choose body', () => expect(shown(page, 'Body')).toContainText('Pip'));

  await hands.type('/stride 110 cm');
  await hands.done('set stride', () => expect.poll(() => numberOf(page, 'Stride length (m), number')).toBe(1.1));

  await hands.type('/limp');
  await hands.done('limp', () => expect(shown(page, 'Gait')).toHaveText('Limp'));

  await hands.type('/save as Sore knee');
  await hands.done('save as', () => expect(shown(page, 'Gait')).toHaveText('Sore knee'));

  await hands.type('/bend');
  await hands.done('bent course', () => bent(page));

  await hands.type('/stairs');
  await hands.done('stairs on it', () => stairs(page));

  await hands.type('/into run');
  await hands.done('walk to run', () => intoRun(page));

  await withClip(page);
  await hands.type('/lock feet');
  await hands.done('lock feet', () => locked(page));

  await hands.type('/hand over everything');
  await hands.done('hand over all', () => written(page));
  hands.allDone();

  // What is said is undone like anything else, and what cannot be done says why and stays to be mended.
  await hands.type('/stride 99');
  await expect(page.getByRole('dialog', { name: 'Say what to do' })).toContainText('at most 6');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Say what to do' })).toHaveCount(0);
});
