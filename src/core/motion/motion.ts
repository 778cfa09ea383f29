import type { Body } from '../body/body';
import type { Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import type { Ground } from '../ground/ground';
import type { Placement } from '../math/placement';
import type { Foothold } from '../schedule/foothold';
import type { Targets } from '../solve/targets';

export type { Foothold };

/** A time on the ground, s from the motion's start; of a motion that repeats it may end in the next round. */
export interface Contact {
  readonly side: Side;
  readonly from: number;
  readonly to: number;
}

/** A joint's largest acceleration, m/s², and when, s. */
export interface Jolt {
  readonly most: number;
  readonly at: number;
}

/** When (s) something is at its worst, and on which side; null where it is no side's. */
export interface Moment {
  readonly at: number;
  readonly side: Side | null;
}
export type Shortcoming = 'tooFar' | 'tooNear' | 'handMissed' | 'kneeSnap' | 'hipsDown' | 'hipsUp';

/** What a motion is short of, over its whole length; lengths in m, angles in rad. */
export interface Survey {
  /** When each was worst. */
  readonly worst: Readonly<Record<Shortcoming, Moment>>;
  /** Farthest any leg's target lay out of reach: positive too far, negative too near. */
  readonly tooFar: number;
  readonly tooNear: number;
  /** Largest angular acceleration of a knee, rad/s², and least and largest vertical acceleration of the hips, m/s²: at 240 looks a second. */
  readonly kneeSnap: number;
  readonly hipsAcceleration: readonly [number, number];
  /** Largest acceleration of each joint of the skeleton, m/s², and when: at 240 looks a second. */
  readonly jolts: readonly Jolt[];
  /** The same (m/s²) in the cycles of all its gaits on the level; a cycle's is its own. */
  readonly level: readonly number[];
  /** Farthest a held hand was from what it holds. */
  readonly handMissed: number;
  /** How far the arms were taken out to stay clear of the trunk, and the room that is still missing then. */
  readonly armsOut: readonly [number, number];
  readonly armsClose: number;
}

/** What a motion was made to do; speeds in m/s, lengths in m, times in s, direction in rad (left positive). */
interface Pace {
  readonly speed: number;
  readonly strideLength: number;
  readonly strideTime: number;
  readonly dutyFactor: number;
  readonly direction: number;
}

/**
 * A figure moving: all that walkway, measures, files and sequences know of it. Every reading is pure: the same time gives
 * the same bits, asked in any order and between whatever else. Times in seconds, also before 0 and past the end: a motion
 * that repeats goes on, moved by `repeat` each round; another stands still.
 */
export interface Motion {
  readonly name: string;
  readonly body: Body;
  /** All gaits it is made of; none of a clip. */
  readonly gaits: readonly GaitSpec[];
  readonly ground: Ground;
  /** Length of one round, or of the whole motion. */
  readonly duration: number;
  /** What one round adds to where the figure is; null where the motion ends. */
  readonly repeat: Placement | null;
  /** Rounds after which it is truly the same again: more than one where the figure looks around slowly. */
  readonly rounds: number;
  readonly strideTime: number;
  readonly pace: Pace;
  /** Contacts of one round by time, each once. */
  readonly contacts: readonly Contact[];
  /** Footholds stood on at any time between two times, also of other rounds, by landing. */
  footholds(from: number, to: number): readonly Foothold[];
  /** Strides walked at a time; a left landing of a plain walk is a whole number. */
  phaseAt(t: number): number;
  /** Way (m) of the root over the ground since time 0. */
  travelled(t: number): number;
  /** Writes the root's placement, without solving a pose. */
  place(t: number, out: Placement): void;
  /** Writes the pose to out[at..]: translations of root and hips, then a quaternion a joint. */
  pose(t: number, out: Float64Array, at: number): void;
  /** Writes what the pose was asked to be. */
  targets(t: number, out: Targets): void;
  /** On a deck that moves: the same motion as it is seen from there, and how far (m) the deck has gone, x and z. Footholds and contacts are told on the deck. */
  readonly onGround?: Motion;
  readonly deck?: (t: number, out: Float64Array) => void;
  /** Looks the whole motion over; found once, then kept. */
  survey(): Survey;
  /** The same bit by bit, for who may be cancelled meanwhile. */
  surveying(): Generator<undefined, Survey>;
}
