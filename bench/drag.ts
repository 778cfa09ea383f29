import { parseArgs } from 'node:util';
import { chromium, type Page } from '@playwright/test';
import config from '../playwright.config';
import { richWalk } from '../src/core/tests/rich-walk';

/**
 * What dragging costs the page: `npm run bench:drag -- --port 4180`, against a running Nimbret. A knot, a print, a stone and an
 * obstacle of a walk with everything in it, and a knot of a plain one, are dragged for ten seconds each; tasks of the page's
 * thread over 50 ms are counted with the walkway switched off (drawing told apart), and how long after the last move the prints
 * come to rest. It reports; it never fails.
 */
const { values } = parseArgs({ options: { port: { type: 'string', default: '4180' }, seconds: { type: 'string', default: '10' } } });
const base = `http://127.0.0.1:${values.port}`;
const SECONDS = Number(values.seconds);

const TARGETS = {
  knot: '[data-testid="ribbon"] [data-knot-mark="2"]',
  print: '[data-testid="ribbon"] [data-print="8"]',
  stones: '[data-testid="ribbon"] [data-ground="stones"]',
  obstacle: '[data-testid="ribbon"] [data-ground="post"] > :nth-child(2)',
  'key of a track': '[data-testid="walk-chart"] [data-post="pace 1"]',
} as const;

interface Stored {
  readonly id: string;
  readonly kind: string;
  readonly version: number;
  readonly spec: object;
}

/** A project of its own with that walk, or with a plain one; its address. */
async function project(page: Page, rich: boolean): Promise<string> {
  const { id } = (await (await page.request.post(`${base}/api/projects`, { data: { name: rich ? 'Dragged' : 'Dragged, plain' } })).json()) as { id: string };
  if (!rich) return id;
  const items = (await (await page.request.get(`${base}/api/projects/${id}`)).json()) as Stored[];
  const ids = (kind: string) => items.filter((i) => i.kind === kind).map((i) => i.id);
  const [walk, run, sneak] = ids('gait') as [string, string, string];
  const plan = items.find((i) => i.kind === 'plan')!;
  const spec = richWalk({ walk, run, sneak, bystander: ids('body')[1]! });
  const saved = await page.request.put(`${base}/api/projects/${id}/items/plan/${plan.id}`, { data: { version: plan.version, spec } });
  if (!saved.ok()) throw new Error(await saved.text());
  return id;
}

/** Notes long tasks and when the ribbon changed last; draws no walkway. */
function watch(): void {
  const was = HTMLCanvasElement.prototype.getContext;
  HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, kind: string, ...rest: unknown[]) {
    return /webgl/.test(kind) ? null : (was as (...args: unknown[]) => unknown).call(this, kind, ...rest);
  } as never;
  const told = { long: [] as number[], changed: 0, moved: 0 };
  addEventListener('pointermove', () => (told.moved = performance.now()), true);
  Object.assign(window, { told });
  new PerformanceObserver((list) => told.long.push(...list.getEntries().map((e) => e.duration))).observe({ entryTypes: ['longtask'] });
  setInterval(() => {
    const ribbon = document.querySelector('[data-testid="ribbon"]');
    if (!ribbon || ribbon.hasAttribute('data-watched')) return;
    ribbon.setAttribute('data-watched', '');
    new MutationObserver(() => (told.changed = performance.now())).observe(ribbon, { subtree: true, attributes: true, childList: true });
  }, 200);
}
type Told = { told: { long: number[]; changed: number; moved: number } };

/** So many times it is moved a little and let rest, the pointer held: how long (ms) till the walk as it is then is shown. */
const RESTS = 12;

async function delays(page: Page, x: number, y: number): Promise<string> {
  const each: number[] = [];
  for (let i = 0; i < RESTS; i++) {
    for (let k = 0; k < 5; k++) {
      await page.mouse.move(x + 2 * k + 3 * (i % 3), y - k - 2 * (i % 2));
      await page.waitForTimeout(30);
    }
    // Before it is planned in full, which is another showing.
    await page.waitForTimeout(520);
    each.push(await page.evaluate(() => performance.getEntriesByName('walk shown').at(-1)!.startTime - (window as unknown as Told).told.moved));
    await page.waitForTimeout(900);
  }
  const sorted = each.filter((ms) => ms > 0).sort((a, b) => a - b);
  return `shown ${sorted[Math.floor(sorted.length / 2)]?.toFixed(0)} ms after the last move (most ${sorted.at(-1)?.toFixed(0)}, ${sorted.length} of ${RESTS})`;
}

async function drag(page: Page, selector: string): Promise<string> {
  const box = (await page.locator(selector).first().boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.evaluate(() => ((window as unknown as Told).told.long.length = 0));
  const heap = () => page.evaluate(() => (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize / 1e6);
  const before = await heap();
  const start = Date.now();
  let moves = 0;
  for (let t = 0; t < SECONDS; t = (Date.now() - start) / 1000) {
    await page.mouse.move(x + 12 * Math.sin(t * 3), y + 10 * Math.sin(t * 2.2));
    moves++;
    await page.waitForTimeout(16);
  }
  const last = await page.evaluate(() => performance.now());
  const long = await page.evaluate(() => [...(window as unknown as Told).told.long]);
  await page.waitForTimeout(900);
  const rest = (await page.evaluate(() => (window as unknown as Told).told.changed)) - last;
  const after = await heap();
  const shown = await delays(page, x, y);
  await page.mouse.up();
  const sorted = long.sort((a, b) => b - a);
  return `${moves} moves, ${sorted.length} tasks over 50 ms (longest ${(sorted[0] ?? 0).toFixed(0)}), at rest ${Math.max(0, rest).toFixed(0)} ms after the last move, heap ${before.toFixed(0)} → ${after.toFixed(0)} MB, ${shown}`;
}

const browser = await chromium.launch({ ...config.use!.launchOptions, args: [...config.use!.launchOptions!.args!, '--enable-precise-memory-info'] });
try {
  for (const [rich, targets] of [
    [true, Object.entries(TARGETS)],
    [false, [['knot of a plain walk', '[data-knot-mark="1"]']]],
  ] as const)
    for (const [name, selector] of targets) {
      const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' })).newPage();
      await page.addInitScript(watch);
      await page.goto(`${base}/p/${await project(page, rich)}/steps`);
      await page.getByTestId('ribbon').locator('[data-print]').first().waitFor();
      if (selector.includes('walk-chart')) await page.getByRole('button', { name: 'chart', exact: true }).click();
      await page.locator(selector).first().waitFor();
      await page.waitForTimeout(4000);
      console.log(`${name.padEnd(22)} ${await drag(page, selector)}`);
      await page.context().close();
    }
} finally {
  await browser.close();
}
