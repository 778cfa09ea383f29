import { composePoint, createPlacement, repeatPlacement, type Placement } from '../math/placement';
import type { Foothold } from '../schedule/foothold';

/** A foothold seen `later` seconds on in the frame of a placement. */
export function moveFoothold(hold: Foothold, by: Placement, later: number): Foothold {
  const at = [hold.x, hold.y, hold.z];
  composePoint(at, 0, by, 0, at, 0);
  const s = Math.sin(by[3]!),
    c = Math.cos(by[3]!);
  return {
    ...hold,
    x: at[0]!,
    y: at[1]!,
    z: at[2]!,
    heading: hold.heading + by[3]!,
    slopeX: c * hold.slopeX + s * hold.slopeZ,
    slopeZ: -s * hold.slopeX + c * hold.slopeZ,
    landing: hold.landing + later,
    ...(hold.mark === undefined ? {} : { mark: hold.mark + later }),
    leaving: hold.leaving + later,
  };
}

/** Footholds of one round, and of the rounds before and after it, that are stood on at some time in [from, to]; by landing. */
export function footholdsBetween(holds: readonly Foothold[], duration: number, repeat: Placement | null, from: number, to: number): Foothold[] {
  const stands = (h: Foothold) => h.landing <= to && h.leaving >= from;
  const byLanding = (a: Foothold, b: Foothold) => a.landing - b.landing;
  if (!repeat) return holds.filter(stands).sort(byLanding);
  const found: Foothold[] = [];
  const by = createPlacement();
  for (const hold of holds) {
    const first = Math.ceil((from - hold.leaving) / duration - 1e-9),
      last = Math.floor((to - hold.landing) / duration + 1e-9);
    for (let k = first; k <= last; k++) {
      repeatPlacement(by, 0, repeat, 0, k);
      found.push(moveFoothold(hold, by, k * duration));
    }
  }
  return found.sort(byLanding);
}
