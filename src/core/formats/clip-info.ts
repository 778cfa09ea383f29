import type { Body } from '../body/body';
import { mannequinRig, type Rig } from '../body/rig';
import type { Carrier } from '../clip/carried';
import type { Clip } from '../clip/clip';
import type { GroundSpec } from '../ground/spec';
import { toDegrees } from '../math/scalar';
import { tellFloor, toldOf, type ToldContact } from './contacts/told';
import { deckInPlace } from '../clip/deck';
import { splitTravel } from '../travel/split';

/** What a written clip says about itself besides its motion; SI units, direction in degrees (left positive). */
interface ClipInfo {
  readonly name: string;
  readonly rate: number;
  readonly frames: number;
  readonly loop: boolean;
  readonly inPlace: boolean;
  readonly speed: number;
  readonly strideLength: number;
  readonly strideTime: number;
  readonly dutyFactor: number;
  readonly direction: number;
  /** Travel of one loop, or of the whole clip: x, z, m; and by how much it turns, degrees (left positive). */
  readonly travel: readonly [number, number];
  readonly turn: number;
  readonly contacts: readonly ToldContact[];
  /** How far (m) its floor has gone by each frame, x and z, and turned (degrees), where that moves. */
  readonly floor?: number[];
  readonly floorTurn?: number[];
  /** The ground it was made for, where that is not level. */
  readonly ground?: GroundSpec;
}

/** A clip to be written, with the body it is for and the rig that shows it. */
export interface ClipDocument {
  readonly body: Body;
  readonly rig: Rig;
  readonly clip: Clip;
  readonly info: ClipInfo;
  /** Which joint carries the travel; null for what is usual in the format. */
  readonly carrier: Carrier | null;
}

/** Makes a clip ready to be written: in place or travelling, with what is known of its pace (direction in rad). */
export function clipDocument(
  body: Body,
  clip: Clip,
  pace: { speed: number; strideLength: number; strideTime: number; dutyFactor: number; direction: number },
  inPlace: boolean,
  ground: GroundSpec | null = null,
  carrier: Carrier | null = null,
): ClipDocument {
  const whole = splitTravel(clip);
  const { values, loopTravel } = whole.travel;
  // A loop in place needs no floor that is told: it goes steadily, as its feet ask for.
  const shown = inPlace ? { ...whole.inPlace, ...(clip.loop ? {} : { deck: deckInPlace(values, clip.deck) }) } : clip;
  const last = (clip.frames - 1) * 3;
  const [x, z, yaw] = clip.loop
    ? [loopTravel[0]!, loopTravel[2]!, loopTravel[3]!]
    : [values[last]! - values[0]!, values[last + 1]! - values[1]!, values[last + 2]! - values[2]!];
  return {
    body,
    rig: mannequinRig(body),
    carrier,
    clip: shown,
    info: {
      name: clip.name,
      rate: clip.rate,
      frames: clip.frames,
      loop: clip.loop,
      inPlace,
      speed: pace.speed,
      strideLength: pace.strideLength,
      strideTime: pace.strideTime,
      dutyFactor: pace.dutyFactor,
      direction: toDegrees(pace.direction),
      travel: [x, z],
      turn: toDegrees(yaw),
      contacts: toldOf(clip, body, ground),
      ...tellFloor(shown),
      ...(ground ? { ground } : {}),
    },
  };
}
