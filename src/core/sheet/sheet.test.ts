import { describe, expect, it } from 'vitest';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { createWorldPose, forwardKinematics } from '../body/skeleton';
import { keyMoments } from '../measure/key-moments';
import { PRESETS } from '../gait/presets';
import { BODY_KEYS, presetCycle, shippedBody } from '../tests/cast';
import { keyPoseSheet } from './key-pose-sheet';
import { partPath, silhouette } from './silhouette';

describe('key moments', () => {
  it.each(PRESETS.filter((p) => !['hop', 'gallop', 'skip'].includes(p.key)))('$key: contact, down, passing and up come in order in both steps', ({ key }) => {
    const moments = keyMoments(presetCycle(key));
    for (const side of ['left', 'right'] as const) {
      const own = moments.filter((m) => m.side === side);
      expect(own.map((m) => m.name)).toEqual(['contact', 'down', 'passing', 'up']);
      const from = own[0]!.phase;
      const places = own.map((m) => (m.phase - from + 1) % 1);
      for (let i = 1; i < 4; i++) expect(places[i]!).toBeGreaterThanOrEqual(places[i - 1]!);
      expect(places[3]!).toBeLessThanOrEqual(0.62);
    }
  });

  it('of the natural walk lie near pictures 1, 4, 7 and 10 of 24 (common practice, no published source)', () => {
    const own = keyMoments(presetCycle('walk')).filter((m) => m.side === 'left');
    own.forEach((m, i) => expect(Math.abs(1 + m.phase * 24 - (1 + 3 * i))).toBeLessThanOrEqual(2));
  });
});

describe('the key pose sheet', () => {
  it('is well-formed XML with eight poses from two sides, their frames and angles (fast-xml-parser)', () => {
    const svg = keyPoseSheet(presetCycle('walk'), 'Marlo & <friends>', 24);
    expect(XMLValidator.validate(svg)).toBe(true);
    const { svg: root } = new XMLParser({ ignoreAttributes: false }).parse(svg) as {
      svg: { g: Record<string, string>[]; text: { '#text': string }[]; title: string };
    };
    expect(root.title).toBe('Marlo & <friends>: key poses');
    expect(root.g.map((g) => `${g['@_data-moment']} ${g['@_data-view']}`)).toHaveLength(16);
    expect(new Set(root.g.map((g) => g['@_data-moment'])).size).toBe(8);
    const words = root.text.map((t) => t['#text']);
    for (const name of ['L contact', 'R down', 'L passing', 'R up', 'frame 1']) expect(words).toContain(name);
    expect(words.filter((w) => /^[LR] {2}hip -?\d+° {2}knee -?\d+° {2}ankle -?\d+°$/.test(String(w)))).toHaveLength(16);
  });

  it.each(BODY_KEYS)('%s stands on its line, as tall as the body, left limbs behind right ones seen from the right', (key) => {
    const body = shippedBody(key);
    const motion = presetCycle('walk', key);
    const world = createWorldPose(body.skeleton);
    const pose = new Float64Array(98);
    motion.pose(0.25 * motion.duration, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    const parts = silhouette(body, world, 'side', pose[0]!, pose[2]!);
    const ys = parts.flatMap((p) => p.polygon?.map(([, y]) => y) ?? p.ends!.flatMap(([, y, r]) => [y - r, y + r]));
    expect(Math.min(...ys)).toBeGreaterThan(-0.03 * body.spec.stature);
    expect(Math.max(...ys)).toBeGreaterThan(0.9 * body.spec.stature);
    expect(Math.max(...ys)).toBeLessThan(1.08 * body.spec.stature);
    const first = (of: string) => parts.findIndex((p) => p.of === of);
    expect(first('left')).toBeLessThan(first('body'));
    expect(first('right')).toBeGreaterThan(first('body'));
    for (const p of parts) expect(partPath(p, 0, 0, 100)).not.toMatch(/NaN|Infinity/);
  });
});
