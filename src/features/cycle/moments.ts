import type { Body } from '@/core/body/body';
import { parameterAt, readValue, writeValue } from '@/core/gait/access';
import { defaultKeys, KEY_GAP, shiftKeys, type CurveKey } from '@/core/gait/curve';
import type { Channel } from '@/core/gait/parameters';
import type { GaitSpec } from '@/core/gait/spec';
import { structuredCloneGait } from '@/core/gait/timing';
import { wrapPhase } from '@/core/math/scalar';
import { keyMoments, type KeyMoment } from '@/core/measure/key-moments';
import { cycle } from '@/core/motion/solved';

const RISE = parameterAt('hips.rise')!;
const BIAS = parameterAt('feet.swingBias')!;
/** Halvings of the search for the swing that passes when it is asked to. */
const ROUNDS = 9;

/**
 * The gait with one key moment moved to another phase. Contact moves the leg; passing moves the other foot's swing earlier
 * or later; down and up stretch the curve of the hips' rise in time.
 */
export function moveMoment(gait: GaitSpec, body: Body, moments: readonly KeyMoment[], moved: KeyMoment, to: number): GaitSpec {
  const next = structuredCloneGait(gait);
  if (moved.name === 'contact') {
    next.timing[moved.side === 'left' ? 'leftLeg' : 'rightLeg'] = wrapPhase(to);
    return next;
  }
  if (moved.name === 'passing') return passingAt(next, body, moved, to);
  const channel = readValue(next, RISE) as Channel;
  const keys = shiftKeys(channel.curve ?? defaultKeys(2), -channel.delay);
  writeValue(next, RISE, { ...channel, delay: 0, curve: warped(keys, moments, moved, to) });
  return next;
}

/** Keys moved in time so that what was at the moved moment comes at `to`; its neighbours in the cycle stay. */
function warped(keys: readonly CurveKey[], moments: readonly KeyMoment[], moved: KeyMoment, to: number): CurveKey[] {
  const neighbours = moments.filter((m) => m !== moved && m.name !== 'passing');
  const distance = (from: number, phase: number) => wrapPhase(phase - from);
  const before = Math.min(...neighbours.map((m) => distance(m.phase, moved.phase) || 1));
  const after = Math.min(...neighbours.map((m) => distance(moved.phase, m.phase) || 1));
  const wanted = wrapPhase(to - moved.phase + 0.5) - 0.5;
  const by = Math.min(Math.max(wanted, -0.85 * before), 0.85 * after);
  const map = (at: number): number => {
    const d = wrapPhase(at - moved.phase + 0.5) - 0.5;
    if (d >= 0 && d < after) return at + by * (1 - d / after);
    if (d < 0 && -d < before) return at + by * (1 + d / before);
    return at;
  };
  const sorted = keys.map((k) => ({ ...k, at: wrapPhase(map(k.at)) })).sort((a, b) => a.at - b.at);
  return sorted.filter((k, i) => i === 0 || k.at - sorted[i - 1]!.at >= KEY_GAP);
}

function passingAt(gait: GaitSpec, body: Body, moved: KeyMoment, to: number): GaitSpec {
  // The foot that passes is the other one; it may have a swing of its own.
  const side = moved.side === 'left' ? 'right' : 'left';
  const late = (bias: number): boolean => {
    writeValue(gait, BIAS, bias, side);
    const trial = structuredCloneGait(gait);
    const found = keyMoments(cycle(trial, body)).find((m) => m.name === 'passing' && m.side === moved.side)!;
    return wrapPhase(found.phase - to + 0.5) > 0.5;
  };
  let lo = -1,
    hi = 1;
  for (let i = 0; i < ROUNDS; i++) {
    const mid = (lo + hi) / 2;
    if (late(mid)) lo = mid;
    else hi = mid;
  }
  writeValue(gait, BIAS, (lo + hi) / 2, side);
  return gait;
}
