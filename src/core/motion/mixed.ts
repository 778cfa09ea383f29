import { createPlacement } from '../math/placement';
import { lerp } from '../math/scalar';
import type { Foothold } from '../schedule/foothold';
import { createReach } from '../solve/reach';
import { blendTargets, createTargets, type Targets } from '../solve/targets';
import { reachedAnew } from './corrected';
import type { Contact, Motion } from './motion';
import { kept } from './survey';

/** Times this close (s) are the same. */
const SAME_TIME_S = 1e-6;

/**
 * A steady mix of two motions that step together (two members of a set): `u` 0 is `a`, 1 is `b`. Their targets are mixed
 * and reached anew, so that a foot that stands in both is exactly still. Throws RangeError where they do not step together.
 */
export function mixed(a: Motion, b: Motion, u: number): Motion {
  const together =
    Math.abs(a.duration - b.duration) < SAME_TIME_S &&
    (a.repeat === null) === (b.repeat === null) &&
    a.contacts.length === b.contacts.length &&
    a.contacts.every((c, i) => c.side === b.contacts[i]!.side && Math.abs(c.from - b.contacts[i]!.from) < SAME_TIME_S);
  if (!together) throw new RangeError('mixed: both motions must last as long and land at the same times');
  const reacher = createReach(a.body);
  const [first, second] = [createTargets(), createTargets()];
  const targets = (t: number, out: Targets) => {
    a.targets(t, first);
    b.targets(t, second);
    blendTargets(first, second, u, out);
  };
  const pose = (t: number, out: Float64Array, at: number) => {
    targets(t, first);
    reacher.reach(first, out, at);
  };
  const other = createPlacement();
  const contact = (c: Contact, i: number): Contact => ({ side: c.side, from: c.from, to: Math.min(c.to, b.contacts[i]!.to) });
  const dir = [Math.sin, Math.cos].map((f) => lerp(a.pace.speed * f(a.pace.direction), b.pace.speed * f(b.pace.direction), u)) as [number, number];
  const speed = Math.hypot(...dir);
  return {
    ...a,
    name: `${a.name} · ${b.name}`,
    repeat: a.repeat && b.repeat ? createPlacement(...[0, 1, 2, 3].map((k) => lerp(a.repeat![k]!, b.repeat![k]!, u))) : null,
    pace: {
      speed,
      strideLength: speed * a.strideTime,
      strideTime: a.strideTime,
      dutyFactor: lerp(a.pace.dutyFactor, b.pace.dutyFactor, u),
      direction: speed > 0 ? Math.atan2(...dir) : a.pace.direction,
    },
    contacts: a.contacts.map(contact),
    footholds(from, to) {
      const others = b.footholds(from, to);
      return a.footholds(from, to).flatMap((h) => {
        const o = others.find((x) => x.side === h.side && Math.abs(x.landing - h.landing) < SAME_TIME_S);
        return o ? [between(h, o, u)] : [];
      });
    },
    travelled: (t) => speed * t,
    place(t, out) {
      a.place(t, out);
      b.place(t, other);
      for (let k = 0; k < 4; k++) out[k] = lerp(out[k]!, other[k]!, u);
    },
    targets,
    pose,
    ...kept(() => reachedAnew(a, { ...a, pose }, reacher.short)),
  };
}

/** A foothold between two others. */
function between(a: Foothold, b: Foothold, u: number): Foothold {
  const mix = (k: 'x' | 'y' | 'z' | 'heading' | 'slopeX' | 'slopeZ') => lerp(a[k], b[k], u);
  return {
    ...a,
    x: mix('x'),
    y: mix('y'),
    z: mix('z'),
    heading: mix('heading'),
    slopeX: mix('slopeX'),
    slopeZ: mix('slopeZ'),
    leaving: Math.min(a.leaving, b.leaving),
  };
}
