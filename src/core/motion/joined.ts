import { composePlacement, createPlacement, inversePlacement, type Placement } from '../math/placement';
import { clamp, smootherstep, wrapAngle } from '../math/scalar';
import type { Foothold } from '../schedule/foothold';
import { createReach } from '../solve/reach';
import { blendTargets, createTargets, FOOT_TARGET, footAt, TARGET, type Targets } from '../solve/targets';
import { reachedAnew } from './corrected';
import { moveFoothold } from './footholds';
import type { Contact, Motion } from './motion';
import { placed } from './placed';
import { kept } from './survey';

/** When one motion goes over into the next. */
export interface Join {
  /** Time (s) of the first motion at which the cross-fade begins, and of the second that comes then. */
  readonly leave: number;
  readonly enter: number;
  /** Length of the cross-fade, s. */
  readonly overlap: number;
}

/** A foothold less long stood on than this (s) is no help to align by. */
const SHORTEST_S = 1e-3;

/**
 * The first motion up to `leave`, then the second, which is put where a foot that stands in both has the same foothold; that
 * foot stays on it through the cross-fade. Ends where the second ends (or after one round of it). Throws RangeError where no
 * foot stands in both.
 */
export function joined(a: Motion, b: Motion, { leave, enter, overlap }: Join): Motion {
  const shift = leave - enter;
  const by = alignment(a, b, { leave, enter, overlap });
  const second = placed(b, by);
  const duration = leave + Math.max(overlap, b.duration - enter);
  const reacher = createReach(a.body);
  const [first, next] = [createTargets(), createTargets()];
  // Past its end a motion stands still; inside the fade both go on.
  const weight = (t: number) => smootherstep(leave, leave + overlap, t);
  const targets = (time: number, out: Targets) => {
    const t = clamp(time, 0, duration);
    const w = weight(t);
    if (w < 1) a.targets(t, first);
    if (w > 0) second.targets(t - shift, next);
    if (w <= 0) out.set(first);
    else if (w >= 1) out.set(next);
    else blendTargets(first, next, w, out);
  };
  const scratch = createTargets();
  const pose = (t: number, out: Float64Array, at: number) => {
    targets(t, scratch);
    reacher.reach(scratch, out, at);
  };
  const still = createPlacement();
  const footholds = (from: number, to: number): Foothold[] => {
    const before = a.footholds(0, leave).filter((h) => h.landing < leave + overlap / 2);
    const after = second.footholds(enter, duration - shift).map((h) => moveFoothold(h, still, shift));
    // A foothold that is in both is one.
    const kept = after.filter((h) => h.landing > leave && !before.some((o) => o.side === h.side && o.leaving > h.landing));
    const lasting = before.map((h) => {
      const same = after.find((o) => o.side === h.side && o.landing <= leave && Math.hypot(o.x - h.x, o.z - h.z) < 1e-6);
      return same ? { ...h, leaving: same.leaving } : h.leaving > leave ? { ...h, leaving: leave } : h;
    });
    return [...lasting, ...kept].filter((h) => h.landing <= to && h.leaving >= from).sort((p, q) => p.landing - q.landing);
  };
  const way = b.travelled(enter);
  return {
    ...a,
    name: `${a.name} → ${b.name}`,
    duration,
    repeat: null,
    rounds: 1,
    contacts: footholds(-Infinity, Infinity).map((h): Contact => ({ side: h.side, from: h.landing, to: h.leaving })),
    footholds,
    phaseAt: (t) => (t < leave ? a.phaseAt(t) : b.phaseAt(t - shift)),
    travelled: (t) => (t < leave ? a.travelled(t) : a.travelled(leave) + b.travelled(t - shift) - way),
    place(t, out) {
      targets(t, scratch);
      out.set(scratch.subarray(TARGET.root, TARGET.root + 4));
    },
    targets,
    pose,
    ...kept(() => reachedAnew(a, { ...a, duration, pose }, reacher.short)),
  };
}

/** The placement of the second motion that lays the foothold of a foot standing in both onto the first one's. */
function alignment(a: Motion, b: Motion, { leave, enter, overlap }: Join): Placement {
  const stands = (m: Motion, t: number) => m.footholds(t, t + overlap).filter((h) => h.landing <= t && h.leaving >= t + Math.max(overlap, SHORTEST_S));
  const theirs = stands(b, enter);
  // The foot that stands longest on.
  const pairs = stands(a, leave).flatMap((h) => theirs.filter((o) => o.side === h.side).map((o) => ({ h, o })));
  const best = pairs.sort((p, q) => Math.min(q.h.leaving - leave, q.o.leaving - enter) - Math.min(p.h.leaving - leave, p.o.leaving - enter))[0];
  if (!best) throw new RangeError('joined: no foot stands in both motions through the whole cross-fade');
  const at = (m: Motion, t: number, side: 0 | 1): Placement => {
    const targets = createTargets();
    m.targets(t, targets);
    const f = footAt(side);
    return createPlacement(targets[f]!, targets[f + 1]!, targets[f + 2]!, wrapAngle(targets[f + FOOT_TARGET.heading]!));
  };
  const by = createPlacement();
  inversePlacement(by, 0, at(b, enter, best.o.side), 0);
  composePlacement(by, 0, at(a, leave, best.h.side), 0, by, 0);
  return by;
}
