import { describe, expect, it } from 'vitest';
import { defaultKeys, type CurveKey } from './curve';
import type { Channel } from './parameters';
import { compileWave, waveAt, type Follower } from './wave';

const T = 1.05;
const curve: CurveKey[] = [
  { at: 0.04, value: 0.9, tangent: 'smooth' },
  { at: 0.3, value: -0.4, tangent: 'held' },
  { at: 0.55, value: 0.3, tangent: 'linear' },
  { at: 0.8, value: -1, tangent: 'flat' },
];
const channels: Record<string, Channel> = {
  'a cosine': { offset: 0, amount: 0.3, delay: 0.12 },
  'an edited curve': { offset: 0, amount: 0.3, delay: 0.12, curve },
};

/** The slow way: the follower simulated from rest over many strides, Runge–Kutta 4. Its last stride, at even phases. */
function simulated(channel: Channel, waves: 1 | 2, { frequency, damping }: Follower): number[] {
  const input = compileWave(channel, waves, T);
  const w = 2 * Math.PI * frequency;
  const STEPS = 2000;
  const dt = T / STEPS;
  const rate = (phase: number, y: number, v: number) => [v, w * w * (waveAt(input, phase) - y) - 2 * damping * w * v] as const;
  let y = 0,
    v = 0;
  const last: number[] = [];
  for (let i = 0; i < 40 * STEPS; i++) {
    const p = i / STEPS;
    if (i >= 39 * STEPS && i % 20 === 0) last.push(y);
    const h = 0.5 / STEPS;
    const [a1, b1] = rate(p, y, v);
    const [a2, b2] = rate(p + h, y + (dt / 2) * a1, v + (dt / 2) * b1);
    const [a3, b3] = rate(p + h, y + (dt / 2) * a2, v + (dt / 2) * b2);
    const [a4, b4] = rate(p + 1 / STEPS, y + dt * a3, v + dt * b3);
    y += (dt / 6) * (a1 + 2 * a2 + 2 * a3 + a4);
    v += (dt / 6) * (b1 + 2 * b2 + 2 * b3 + b4);
  }
  return last;
}

describe('follow-through', () => {
  it.each(
    Object.entries(channels).flatMap(([name, channel]) =>
      ([1, 2] as const).flatMap((waves) => [
        { name, channel, waves, follower: { frequency: 1.3, damping: 0.15 } },
        { name, channel, waves, follower: { frequency: 3, damping: 0.6 } },
        { name, channel, waves, follower: { frequency: 8, damping: 0.95 } },
      ]),
    ),
  )(
    'the exact answer to $name ($waves a stride, $follower.frequency Hz, damping $follower.damping) is what a long simulation settles to',
    ({ channel, waves, follower }) => {
      const wave = compileWave(channel, waves, T, follower);
      simulated(channel, waves, follower).forEach((y, i) => expect(Math.abs(waveAt(wave, i / 100) - y)).toBeLessThan(2e-6));
    },
  );

  it('closes exactly: value and rate are the same over the seam, and after a thousand strides', () => {
    for (const channel of Object.values(channels)) {
      const wave = compileWave(channel, 1, T, { frequency: 1.7, damping: 0.2 });
      const d = 1e-6;
      expect(waveAt(wave, 1000.25)).toBeCloseTo(waveAt(wave, 0.25), 10);
      const rate = (p: number) => (waveAt(wave, p + d) - waveAt(wave, p)) / d;
      expect(rate(1 - d)).toBeCloseTo(rate(1), 3);
    }
  });

  it('a stiff follower does what it is told; a loose one lags behind and shrinks', () => {
    const channel = channels['a cosine']!;
    const plain = compileWave(channel, 1, T);
    const stiff = compileWave(channel, 1, T, { frequency: 400, damping: 0.7 });
    for (let p = 0; p < 1; p += 0.05) expect(waveAt(stiff, p)).toBeCloseTo(waveAt(plain, p), 2);
    const loose = compileWave(channel, 1, T, { frequency: 0.6, damping: 0.6 });
    expect(loose.amount).toBeLessThan(plain.amount);
    expect(loose.delay).toBeLessThan(plain.delay);
  });

  it('of an edited curve equals that of the cosine it stands for (fast path = slow path), within what the curve’s 2 % make of it', () => {
    const follower = { frequency: 2.5, damping: 0.4 };
    const fast = compileWave({ offset: 0, amount: 1, delay: 0 }, 1, T, follower);
    const slow = compileWave({ offset: 0, amount: 1, delay: 0, curve: defaultKeys(1) }, 1, T, follower);
    for (let p = 0; p < 1; p += 0.02) expect(Math.abs(waveAt(fast, p) - waveAt(slow, p))).toBeLessThan(0.03);
  });

  it('keeps the curve of a channel whose amount is 0, and shows none of it', () => {
    const wave = compileWave({ offset: 0, amount: 0, delay: 0, curve }, 1, T);
    expect(wave.pieces!.count).toBeGreaterThan(3);
    for (const p of [0, 0.2, 0.9]) expect(waveAt(wave, p)).toBe(0);
  });
});
