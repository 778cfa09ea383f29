import { describe, expect, it } from 'vitest';
import { poseSize } from '../body/skeleton';
import { recording, RECORDINGS } from '../tests/recordings';
import { prepareClip } from './prepare';
import { defaultLock, defaultTravel } from './spec';
import { staysOf } from './stays';
import { analyseClip } from './analysis';

describe('feet that are dragged on while they stand', () => {
  it('are told, by how much, with and without a lock: a fault of 80 mm planted in a contact of both feet', async () => {
    const { figure } = (await recording(RECORDINGS.jumps)).brought;
    const size = poseSize(figure.clip.skeleton);
    // Both feet stand from frame 280 to 414; the whole figure is moved sideways in a quarter of a second in the middle.
    const poses = figure.clip.poses.slice();
    for (let f = 330; f < figure.clip.frames; f++) poses[f * size] = poses[f * size]! + 0.08 * Math.min(1, (f - 330) / 30);
    const faulty = { ...figure, clip: { ...figure.clip, poses } };
    const at = (c: { foot: string; from: number; to: number }) => c.from < 330 && c.to > 360;
    const sound = prepareClip(figure, defaultTravel()).before.filter((s) => at(s.contact));
    const found = prepareClip(faulty, defaultTravel()).before.filter((s) => at(s.contact));
    expect(found.map((s) => s.contact.foot)).toEqual(['left', 'right']);
    // Sound, a tip is off by some five centimetres as it rolls: the planted way is more.
    found.forEach((s, i) => expect(s.atFramesMm).toBeGreaterThan(sound[i]!.atFramesMm + 20));
    const analysis = analyseClip(faulty);
    const stays = staysOf(analysis.figure, analysis.contacts, analysis.first);
    expect(analysis.contacts.flatMap((c, i) => (at(c) ? [stays[i]!.stretches.length] : []))).toEqual([2, 2]);
    const locked = prepareClip(faulty, { ...defaultTravel(), lock: defaultLock() });
    const drags = locked.drags.filter((d) => at(d.contact));
    // The planted way, more or less by what the foot drifts as recorded.
    expect(drags).toHaveLength(2);
    for (const d of drags) expect(Math.abs(d.metres - 0.08)).toBeLessThan(0.015);
    for (const s of locked.after.filter((x) => x.contact.to > 280 && x.contact.from < 414)) expect(s.atFramesMm / 1000).toBeLessThan(5e-4);
  });
});
