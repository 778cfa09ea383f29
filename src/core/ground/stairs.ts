import type { Ground } from './ground';

/** A straight flight of stairs: lengths in metres, heading in radians about Y; a riser below zero goes down. */
export interface StairsSpec {
  /** Distance from the origin to the first edge, along the heading. */
  readonly start: number;
  readonly riser: number;
  readonly tread: number;
  readonly count: number;
  readonly heading: number;
}

/** Level ground, a flight of treads, and level ground again at its other end. Throws RangeError where there is no stair. */
export function stairsGround({ start, riser, tread, count, heading }: StairsSpec): Ground {
  if (!(tread > 0 && Number.isInteger(count) && count > 0 && Number.isFinite(riser)))
    throw new RangeError(`stairsGround: need tread > 0, a whole count > 0 and a finite riser; got ${tread}, ${count}, ${riser}`);
  const s = Math.sin(heading),
    c = Math.cos(heading);
  const step = (x: number, z: number) => Math.min(count, Math.max(0, Math.floor((x * s + z * c - start) / tread) + 1));
  return {
    // Adding 0 makes the level before a way down 0, not −0.
    height: (x, z) => riser * step(x, z) + 0,
    normal: (_x, _z, out, at) => {
      out[at] = out[at + 2] = 0;
      out[at + 1] = 1;
    },
    footing: () => true,
  };
}
