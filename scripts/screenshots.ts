import { chromium, type Page } from '@playwright/test';

/**
 * Takes the pictures of docs/screenshots from a running demo: `npx tsx scripts/screenshots.ts [address]`.
 * One current picture of each main view, from the demo data.
 */
const address = process.argv[2] ?? 'http://127.0.0.1:4180';
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-background-networking', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const projects = (await (await fetch(`${address}/api/projects`)).json()) as { id: string; name: string }[];
const demo = projects.find((p) => p.name === 'The tidal post')!.id;

async function open(station: string): Promise<void> {
  await page.goto(`${address}/p/${demo}/${station}`);
  await page.getByTestId('slide-gauge').getByText('feet hold').waitFor();
}
async function holdAt(p: Page, part: number): Promise<void> {
  const pause = p.getByRole('button', { name: 'Pause' });
  if (await pause.isVisible()) await pause.click();
  await p.getByLabel('Playhead').fill(String(part));
  await p.waitForTimeout(1200);
}
const shoot = (name: string) => page.screenshot({ path: `docs/screenshots/${name}.png` });

await page.goto(address);
await page.waitForTimeout(500);
await shoot('projects');
await open('cycle');
await holdAt(page, 0.02);
await shoot('cycle');
await page.getByRole('button', { name: 'side', exact: true }).click();
await page.getByRole('button', { name: 'Use the dark theme' }).click();
await holdAt(page, 0.4);
await shoot('cycle-dark');
await page.getByRole('button', { name: 'Use the light theme' }).click();
await open('steps');
await page.getByRole('button', { name: 'side', exact: true }).click();
await holdAt(page, 0.21);
await shoot('steps');
await open('directions');
await page.getByRole('button', { name: 'Direction 135°' }).click();
await page.getByTestId('set-table').getByText('…').first().waitFor({ state: 'hidden' });
await holdAt(page, 0.3);
await shoot('directions');
await open('hand-over');
await page.getByRole('button', { name: /^Write / }).click();
await page.getByTestId('files').waitFor();
await page.waitForTimeout(500);
await shoot('hand-over');
await browser.close();
