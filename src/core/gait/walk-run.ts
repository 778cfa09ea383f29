import { clamp } from '../math/scalar';
import { fitGait } from './fit';
import { mixGaits, shiftGait } from './mix';
import { findPreset } from './presets';
import type { GaitSpec } from './spec';

/** Range of the walk–run control: 0 a natural walk, 1 a steady run, beyond it towards a sprint. */
export const WALK_RUN_RANGE = [0, 2] as const;

/** The gait at a place of the walk–run control, for legs of `legLength` m. */
export function walkRunGait(place: number, legLength: number): GaitSpec {
  const at = clamp(place, ...WALK_RUN_RANGE);
  const stage = (key: string) => fitGait(findPreset(key)!.make(), legLength);
  return at <= 1 ? mixGaits(stage('walk'), stage('run'), at) : mixGaits(stage('run'), stage('sprint'), at - 1);
}

/** Where on the control a gait stands, by its time on the ground. */
export function walkRunPlace(gait: GaitSpec): number {
  const duty = (place: number) => walkRunGait(place, gait.legLength).timing.dutyFactor;
  let [lo, hi] = WALK_RUN_RANGE as readonly [number, number];
  for (let i = 0; i < 20; i++) {
    const mid = (lo + hi) / 2;
    if (duty(mid) > gait.timing.dutyFactor) lo = mid;
    else hi = mid;
  }
  const place = (lo + hi) / 2;
  return place < 0.01 ? 0 : Math.round(place * 100) / 100;
}

/** A gait taken along the control from where it stood, keeping what sets it apart from the plain walk and run. */
export const alongWalkRun = (gait: GaitSpec, from: number, to: number): GaitSpec =>
  from === to ? gait : shiftGait(gait, walkRunGait(from, gait.legLength), walkRunGait(to, gait.legLength));
