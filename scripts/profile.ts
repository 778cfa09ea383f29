import { chromium, type Page } from '@playwright/test';
import { countRenders, rendersSince } from '../e2e/renders';

/**
 * Which components a drag renders, and how often, from a server of a profiling build (scripts/profile.sh): prints a table for
 * each drag.
 */
const address = process.argv[2] ?? 'http://127.0.0.1:4180';
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-background-networking', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
// The compiler of this script marks functions with their names by a helper that pages do not know.
await page.addInitScript({ content: 'globalThis.__name = (f) => f' });
await countRenders(page);
const MOVES = 10;

async function drag(p: Page, x: number, y: number, dx: number, dy: number): Promise<void> {
  await p.mouse.move(x, y);
  await p.mouse.down();
  await p.waitForTimeout(600);
  await rendersSince(p);
  for (let i = 1; i <= MOVES; i++) {
    await p.mouse.move(x + (dx * i) / MOVES, y + (dy * i) / MOVES);
    await p.waitForTimeout(400);
  }
}

async function report(title: string): Promise<void> {
  const { rendered, commits } = await rendersSince(page);
  await page.mouse.up();
  const counts = new Map<string, number>();
  for (const { component, part } of rendered) {
    const key = `${part} | ${component}`;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const parts = new Map<string, number>();
  for (const { part } of rendered) parts.set(part, (parts.get(part) ?? 0) + 1);
  console.log(`\n## ${title}: ${MOVES} moves, ${commits} commits, ${rendered.length} renders`);
  for (const [part, n] of [...parts].sort((a, b) => b[1] - a[1])) {
    const own = [...counts].filter(([k]) => k.startsWith(`${part} | `)).sort((a, b) => b[1] - a[1]);
    console.log(
      `${String(n).padStart(5)}  ${part}: ${own
        .filter(([k]) => !/Styled|Insertion|Box|Typography/.test(k))
        .map(([k, c]) => `${k.slice(part.length + 3)} ${c}`)
        .join(', ')}`,
    );
  }
}

/** Opens a station of a project of its own: drags leave the gait where no other drag begins. */
const open = async (station: string) => {
  const made = await page.request.post(`${address}/api/projects`, { data: { name: `Profile of ${station}` } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${address}/p/${id}/${station}`);
  await page.getByTestId('slide-gauge').getByText('feet hold').waitFor();
  await page.waitForTimeout(1500);
};

const dragSlider = async (label: string, title: string) => {
  const thumb = page.getByRole('slider', { name: label, exact: true }).locator('xpath=..');
  await thumb.scrollIntoViewIfNeeded();
  const box = (await thumb.boundingBox())!;
  await drag(page, box.x + box.width / 2, box.y + box.height / 2, 20, 0);
  await report(title);
};

await open('cycle');
await dragSlider('Foot lift (cm)', 'A strip of the feet');
await dragSlider('Stride length (m)', 'Stride length');
await open('cycle');
const mark = (await page.getByRole('slider', { name: 'Right contact' }).boundingBox())!;
await drag(page, mark.x + mark.width / 2, mark.y + mark.height / 2, 12, -6);
await report('The dial');
await page.getByRole('button', { name: 'Styles', exact: true }).click();
await page.waitForTimeout(1500);
await dragSlider('From walk to run', 'From walk to run, on the page of styles');
await open('directions');
await dragSlider('Sideways stride (percent)', 'The set’s sideways stride');
await open('steps');
await dragSlider('Settling (percent)', 'The plan’s settling');
await browser.close();
