import { createPlacement } from '../math/placement';
import type { Foothold } from '../schedule/foothold';
import type { Contact, Motion } from './motion';
import { moveFoothold } from './footholds';

/** A motion that runs `rate` times as fast, places unchanged: slow motion below 1. Needs a rate above 0. */
export function retimed(motion: Motion, rate: number): Motion {
  if (!(rate > 0 && Number.isFinite(rate))) throw new RangeError(`retimed: the rate must be above 0, got ${rate}`);
  const { pace } = motion;
  const still = createPlacement();
  const hold = (h: Foothold): Foothold => ({
    ...moveFoothold(h, still, 0),
    landing: h.landing / rate,
    ...(h.mark === undefined ? {} : { mark: h.mark / rate }),
    leaving: h.leaving / rate,
    flatAfter: h.flatAfter / rate,
    riseFor: h.riseFor / rate,
  });
  return {
    ...motion,
    duration: motion.duration / rate,
    strideTime: motion.strideTime / rate,
    pace: { ...pace, speed: pace.speed * rate, strideTime: pace.strideTime / rate },
    contacts: motion.contacts.map((c): Contact => ({ side: c.side, from: c.from / rate, to: c.to / rate })),
    footholds: (from, to) => motion.footholds(from * rate, to * rate).map(hold),
    phaseAt: (t) => motion.phaseAt(t * rate),
    travelled: (t) => motion.travelled(t * rate),
    place: (t, out) => motion.place(t * rate, out),
    pose: (t, out, at) => motion.pose(t * rate, out, at),
    targets: (t, out) => motion.targets(t * rate, out),
  };
}
