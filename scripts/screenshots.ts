import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { createBody } from '../src/core/body/body';
import { SHIPPED_BODIES } from '../src/core/body/spec';
import { decodeBvh } from '../src/core/formats/bvh/decode';
import { encodeBvh } from '../src/core/formats/bvh/encode';
import { findPreset } from '../src/core/gait/presets';
import { cycle } from '../src/core/motion/solved';
import { seeded } from '../src/core/math/random';
import { keyPoseSheet } from '../src/core/sheet/key-pose-sheet';

/**
 * Takes the pictures of docs/screenshots from a running demo: `npx tsx scripts/screenshots.ts [address]`; `travel` behind it takes
 * that station's alone.
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

/** A made-up recording: a walk of ours whose joints wander and shake as markers do. */
function shakyWalk(): Buffer {
  const folder = mkdtempSync(join(tmpdir(), 'nimbret-'));
  const path = join(folder, 'walk.bvh');
  try {
    execFileSync('bash', ['nimbret', 'make', '--gait', 'walk', '--set', 'timing.speed=1.25', '--cycles', '5', '--fps', '60', '--out', path]);
    const pkg = decodeBvh(readFileSync(path));
    const width = pkg.values.length / pkg.frames;
    const rand = seeded(7);
    const gauss = () => Math.sqrt(-2 * Math.log(1 - rand())) * Math.cos(2 * Math.PI * rand());
    for (let c = 3; c < width; c++)
      for (let f = 0, drift = 0; f < pkg.frames; f++) {
        drift += 0.06 * (1.2 * gauss() - drift);
        pkg.values[f * width + c] = pkg.values[f * width + c]! + 1.1 * drift + 0.12 * gauss();
      }
    return Buffer.from(encodeBvh(pkg));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

async function travelPictures(): Promise<void> {
  await page.goto(`${address}/p/${demo}/travel`);
  await page.getByLabel('Motion files').setInputFiles({ name: 'Quay walk.bvh', mimeType: 'text/plain', buffer: shakyWalk() });
  await page.getByTestId('slide-gauge').getByText('feet slide').waitFor();
  await page.getByRole('button', { name: 'side', exact: true }).click();
  await page.getByRole('tab', { name: 'feet' }).click();
  await page.getByRole('switch', { name: 'Lock the feet' }).click();
  await page.getByTestId('slide-gauge').getByText('feet hold').waitFor();
  await holdAt(page, 0.36);
  await shoot('travel-feet');
  await page.getByRole('tab', { name: 'cut' }).click();
  await page.getByTestId('loops').locator('> *').first().click();
  await holdAt(page, 0.42);
  await shoot('travel-cut');
  await page.getByRole('button', { name: 'free', exact: true }).click();
  await page.getByRole('button', { name: 'Made here…' }).click();
  await page.getByRole('menuitem', { name: /^Cycle/ }).click();
  await page
    .getByTestId('clips')
    .getByRole('button', { name: /frames, 1\.\d+ s/ })
    .waitFor();
  await page
    .getByTestId('clips')
    .getByRole('button', { name: /^Quay walk/ })
    .click();
  await page.getByRole('tab', { name: 'layers' }).click();
  await page.getByRole('button', { name: 'Add layer' }).click();
  await page.getByRole('textbox', { name: 'Moved up (cm)' }).fill('-6');
  await page.getByRole('textbox', { name: 'Moved up (cm)' }).press('Enter');
  await page.getByRole('switch', { name: 'ghost of the clip without lock and layers' }).click();
  await holdAt(page, 0.42);
  await page.waitForTimeout(2500);
  await shoot('travel-layers');
  // The demo data is left as it was.
  await page
    .getByTestId('clips')
    .getByRole('button', { name: /^Quay walk/ })
    .waitFor();
  for (const name of [/^Quay walk/, /round/]) {
    await page.getByTestId('clips').getByRole('button', { name }).first().click();
    await page.getByRole('button', { name: 'Remove', exact: true }).first().click();
  }
  await page.waitForTimeout(1500);
}

if (process.argv[3] === 'travel') {
  await travelPictures();
  await browser.close();
  process.exit(0);
}
await page.goto(address);
await page.waitForTimeout(4000);
await shoot('projects');
await open('cycle');
await holdAt(page, 0.02);
await shoot('cycle');
await page.getByRole('button', { name: 'side', exact: true }).click();
await page.getByRole('button', { name: 'Use the dark theme' }).click();
await holdAt(page, 0.4);
await shoot('cycle-dark');
await page.getByRole('button', { name: 'Use the light theme' }).click();
const toPage = (name: string) => page.getByRole('button', { name, exact: true }).click();
const choose = async (gait: string) => {
  await page.getByRole('combobox', { name: 'Gait', exact: true }).click();
  await page.getByRole('option', { name: gait, exact: true }).click();
};
await open('cycle');
await page.getByRole('button', { name: 'Curve of Rise' }).click();
await page.getByTestId('curve-editor').scrollIntoViewIfNeeded();
await page.mouse.move(600, 400);
await holdAt(page, 0.36);
await shoot('curve');

await choose('Lighting the lamps');
await toPage('Loop');
await toPage('side');
await page.getByRole('button', { name: 'every n frames' }).click();
for (const trail of ['hips', 'toes', 'hands']) await toPage(trail);
await holdAt(page, 0.3);
await shoot('loop');
await toPage('off');
for (const trail of ['hips', 'toes', 'hands']) await toPage(trail);

await choose('Marlo’s round');
await toPage('Compare');
await page
  .getByRole('button', { name: /^compare with state/ })
  .last()
  .click();
await holdAt(page, 0.3);
await shoot('compare');

// Four styles on the walkway, each laid over the gait in use and taken back.
await toPage('Styles');
await page.getByLabel('Find a gait').scrollIntoViewIfNeeded();
await holdAt(page, 0.1);
await shoot('styles');
const sheet = async (name: string) => {
  // What was just done is said over the walkway for a while.
  await page.addStyleTag({ content: '.MuiSnackbar-root { display: none }' });
  await page.getByTestId('walkway').screenshot({ path: `docs/screenshots/${name}.png` });
};
for (const [gait, name, part] of [['Creep on tiptoe', 'style-creep', 0.3]] as const) {
  await page.getByRole('button', { name: `Replace current values by ${gait}`, exact: true }).click();
  await holdAt(page, part);
  await sheet(name);
  await page.getByRole('button', { name: 'Undo' }).click();
}
await choose('Marlo’s round');
const body = createBody(SHIPPED_BODIES.marlo);
const walk = findPreset('walk')!.make();
writeFileSync('docs/screenshots/key-poses.svg', keyPoseSheet(cycle(walk, body), 'Natural walk', 24));

const takeUp = async (walk: string) => {
  await page.getByRole('combobox', { name: 'Walk', exact: true }).click();
  await page.getByRole('option', { name: walk }).click();
  await page.getByTestId('slide-gauge').getByText('feet hold').waitFor();
};
await open('steps');
await page.getByRole('button', { name: 'side', exact: true }).click();
await holdAt(page, 0.66);
await shoot('steps');
await takeUp('Over the stepping stones');
await page.getByRole('button', { name: 'free', exact: true }).click();
await page.getByRole('tab', { name: 'ground' }).click();
await holdAt(page, 0.45);
await shoot('steps-stones');
await takeUp('Pip’s errand on the run');
await page.getByRole('tab', { name: 'rules' }).click();
await page.getByRole('button', { name: 'chart', exact: true }).click();
await holdAt(page, 0.3);
await shoot('steps-chart');
await page.getByRole('button', { name: 'ribbon', exact: true }).click();
await takeUp('Along the causeway');
await page.getByRole('tab', { name: 'prints' }).click();
await page.getByRole('region', { name: 'Footholds' }).locator('tbody tr').nth(7).click();
await page.getByRole('switch', { name: /Mark to hit/ }).click();
await page.getByRole('button', { name: 'taller', exact: true }).click();
await page.waitForTimeout(3000);
await shoot('steps-prints');
await page.getByRole('button', { name: 'lower', exact: true }).click();
await page.getByRole('button', { name: 'Undo' }).click();
await takeUp('Past the terns');
await page.getByRole('tab', { name: 'rules' }).click();
await page.getByRole('button', { name: 'Lead it' }).click();
const walkway = (await page.getByTestId('walkway').boundingBox())!;
await page.mouse.move(walkway.x + walkway.width * 0.68, walkway.y + walkway.height * 0.6);
await page.waitForTimeout(5000);
await shoot('steps-led');
await page.getByRole('button', { name: 'Discard' }).click();
await takeUp('Along the causeway');
await travelPictures();
await open('directions');
await page.getByRole('button', { name: 'back left 135°', exact: true }).press('Enter');
await page.getByTestId('set-table').getByText('…').first().waitFor({ state: 'hidden' });
await holdAt(page, 0.3);
await shoot('directions');
await open('hand-over');
await page.getByRole('button', { name: /^Write / }).click();
await page.getByTestId('files').waitFor();
await page.waitForTimeout(500);
await shoot('hand-over');
await browser.close();
