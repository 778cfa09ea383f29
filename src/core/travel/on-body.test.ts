import { describe, expect, it } from 'vitest';
import { measuredBody } from '../body/measured';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { cycleClip, presetFor, reportOf, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { recording, RECORDINGS } from '../tests/recordings';
import { analyseClip, type Analysis } from './analysis';
import { onBody } from './on-body';
import { prepareClip } from './prepare';
import { worstSlide, type ContactSlide } from './slide';
import { defaultLock, defaultTravel, type TravelSpec } from './spec';

const marlo = shippedBody('marlo'),
  pip = shippedBody('pip');

function put(analysis: Analysis, lock: TravelSpec['lock'], body = pip) {
  const { clip, held, put: track } = prepareClip(analysis.figure, { ...defaultTravel(), lock }, analysis);
  const measured = measuredBody(clip.skeleton, analysis.figure, 'source');
  const shown = { clip, figure: analysis.figure, contacts: held, places: track.places, floor: analysis.floor };
  const on = onBody(shown, measured, body, lock, analysis.calm === Infinity);
  return { ...on, k: body.legLength / measured.body.legLength, source: clip, roles: analysis.figure.roles };
}
const most = (slides: readonly ContactSlide[]): number => worstSlide(slides) ?? 0;

/** Direction of a bone in the world, picture by picture. */
function bones({ skeleton, poses, frames }: Clip, from: number, to: number): number[][] {
  const world = createWorldPose(skeleton);
  return Array.from({ length: frames }, (_, f) => {
    forwardKinematics(skeleton, poses, f * poseSize(skeleton), world);
    const v = [0, 1, 2].map((k) => world.positions[to * 3 + k]! - world.positions[from * 3 + k]!);
    return v.map((x) => x / Math.hypot(...v));
  });
}
const degrees = (a: number[], b: number[]) =>
  (Math.acos(
    Math.min(
      1,
      a.reduce((sum, x, k) => sum + x * b[k]!, 0),
    ),
  ) *
    180) /
  Math.PI;

describe('a clip on a body of ours', () => {
  it.each(['walk', 'run', 'sneak'])('%s: on the body it was made for it is itself; on another feet hold and ways are in legs', (key) => {
    const made = cycleClip(presetFor(key, marlo), marlo, 60).clip;
    const analysis = analyseClip(ownFigure(made));
    const same = put(analysis, null, marlo).clip;
    for (const [from, to] of [
      ['leftUpperLeg', 'leftLowerLeg'],
      ['leftLowerLeg', 'leftFoot'],
      ['rightUpperArm', 'rightLowerArm'],
      ['neck', 'head'],
    ] as const) {
      const [a, b] = [bones(made, JOINT[from], JOINT[to]), bones(same, JOINT[from], JOINT[to])];
      expect(Math.max(...a.map((v, f) => degrees(v, b[f]!))), from).toBeLessThan(0.5);
    }
    const { clip, k, slides } = put(analysis, null);
    expect(most(slides)).toBeLessThan(0.05);
    const report = reportOf(clip, pip);
    expect(report.slideMm.atFrames).toBeLessThan(0.05);
    expect(report.sinkMm).toBeLessThan(0.1);
    expect(report.travel.distanceM).toBeCloseTo(k * made.loopTravel[2]!, 6);
  });

  it('a recording: feet that are locked hold, no sole sinks where none is held, limbs point where they pointed', async () => {
    const analysis = analyseClip((await recording(RECORDINGS.jumps)).brought.figure);
    const { slides } = put(analysis, defaultLock());
    expect(slides.length).toBeGreaterThan(20);
    expect(most(slides)).toBeLessThan(0.5);
    const { clip, source, roles } = put(analysis, null);
    expect(reportOf(clip, pip).sinkMm).toBeLessThan(0.1);
    for (const [from, to] of [
      ['leftUpperArm', 'leftLowerArm'],
      ['rightLowerArm', 'rightHand'],
      ['leftUpperLeg', 'leftLowerLeg'],
      ['rightLowerLeg', 'rightFoot'],
    ] as const) {
      const [a, b] = [bones(source, roles[JOINT[from]]!, roles[JOINT[to]]!), bones(clip, JOINT[from], JOINT[to])];
      const off = a.map((v, f) => degrees(v, b[f]!)).sort((x, y) => x - y);
      expect(off[off.length >> 1], from).toBeLessThan(8);
    }
  });
});
