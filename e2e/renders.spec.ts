import { expect, type Page } from '@playwright/test';
import { openProject, test } from './demo';
import { countRenders, rendersSince } from './renders';

const MOVES = 5;

/** Drags from a place in small moves; what React rendered meanwhile, by part of the page. */
async function drag(page: Page, from: { x: number; y: number; width: number; height: number }, dx: number): Promise<Map<string, number>> {
  const x = from.x + from.width / 2,
    y = from.y + from.height / 2;
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.waitForTimeout(500);
  await rendersSince(page);
  for (let i = 1; i <= MOVES; i++) {
    await page.mouse.move(x + (dx * i) / MOVES, y);
    await page.waitForTimeout(300);
  }
  const { rendered } = await rendersSince(page);
  await page.mouse.up();
  const parts = new Map<string, number>();
  for (const { part } of rendered) parts.set(part, (parts.get(part) ?? 0) + 1);
  return parts;
}

const strips = (parts: Map<string, number>) => [...parts.keys()].filter((p) => /^[a-z]+\.[a-zA-Z.]+$/.test(p)).sort();

test('a drag renders what it changes: its own strip, dial and gauge, and neither other strips nor lists nor switches', async ({ page }) => {
  await countRenders(page);
  await openProject(page, 'Renders');
  const thumb = page.getByRole('slider', { name: 'Foot lift (cm)', exact: true }).locator('xpath=..');
  const lifted = await drag(page, (await thumb.boundingBox())!, 15);
  expect(strips(lifted)).toEqual(['feet.lift']);
  expect(lifted.get('feet.lift')).toBeLessThanOrEqual(60 * MOVES);
  for (const part of ['dial', 'slide-gauge', 'footfall-chart']) expect(lifted.get(part), part).toBeGreaterThan(0);
  for (const part of ['Hips', 'Feet', 'sole-view', 'How the limbs take turns', 'Pages of the cycle', 'Playback speed'])
    expect(lifted.get(part), part).toBeUndefined();
  const all = [...lifted.values()].reduce((a, b) => a + b, 0);
  // Some 290 a move, half of them the style sheet's own; it was 2,100 when every strip went along.
  expect(all).toBeLessThan(500 * MOVES);

  const turned = await drag(page, (await page.getByRole('slider', { name: 'Right contact' }).boundingBox())!, 10);
  expect(turned.get('dial')).toBeGreaterThan(0);
  expect(strips(turned).filter((s) => !s.startsWith('timing.'))).toEqual([]);

  // What plays writes into the page by itself: React renders nothing.
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(1500);
  await rendersSince(page);
  await page.waitForTimeout(1000);
  const playing = await rendersSince(page);
  expect(playing.rendered.filter((r) => r.part !== 'walkway scene' && r.part !== 'drawn-simply' && r.part !== 'walkway')).toEqual([]);
});
