import { SIDE_NAMES } from '../body/roles';
import { poseSize } from '../body/skeleton';
import type { Clip, ClipContact } from '../clip/clip';
import { createPlacement, repeatPlacement } from '../math/placement';
import type { Motion } from './motion';

/** How a motion is sampled besides its frame rate. */
export interface SampleOptions {
  /** How often a loop is repeated; one slow look around counts as one. */
  readonly cycles?: number;
  /** Pictures each pose is held for: on ones, twos, threes. */
  readonly hold?: number;
  /** Store the closing picture of a loop as well, for programs that want it; the clip is then no loop of its own. */
  readonly closing?: boolean;
}

/** Samples a motion at `rate` a second over its whole length: one that repeats as a loop, another with its closing frame. */
export function sampleClip(motion: Motion, rate: number, options: SampleOptions = {}): Clip {
  const sampling = clipSampling(motion, rate, options);
  while (!sampling.step()) continue;
  return sampling.clip;
}

/** A clip that is sampled bit by bit: `step` fills some frames and says whether all are there. */
export interface ClipSampling {
  readonly clip: Clip;
  step(frames?: number): boolean;
}

/** Frames a step fills by itself. */
const STEP_FRAMES = 64;

/** Begins sampling; the clip's frames are there once `step` has said so. */
export function clipSampling(motion: Motion, rate: number, options: SampleOptions = {}): ClipSampling {
  const { duration, repeat, body } = motion;
  const { hold = 1, closing = false } = options;
  const cycles = (options.cycles ?? 1) * motion.rounds;
  const size = poseSize(body.skeleton);
  const per = Math.max(1, Math.round(duration * rate));
  const loop = repeat !== null && !closing;
  const frames = repeat ? per * cycles + (closing ? 1 : 0) : per + 1;
  const loopTravel = createPlacement();
  if (loop) repeatPlacement(loopTravel, 0, repeat, 0, cycles);
  const clip: Clip = {
    name: motion.name,
    skeleton: body.skeleton,
    frames,
    rate,
    loop,
    poses: new Float64Array(frames * size),
    loopTravel,
    ...(motion.deck ? { deck: new Float64Array(frames * 4) } : {}),
    contacts: contactsOf(motion, per / duration, frames, cycles, loop).map((c) => heldContact(c, hold, frames)),
  };
  let next = 0;
  const by = new Float64Array(2);
  return {
    clip,
    step(count = STEP_FRAMES) {
      for (const end = Math.min(frames, next + count); next < end; next++) {
        // Held pictures repeat the first of their group; the closing one always shows the end.
        const f = next === frames - 1 && !loop ? next : next - (next % hold);
        const t = (f / per) * duration;
        motion.pose(t, clip.poses, next * size);
        if (!clip.deck) continue;
        motion.deck!(t, by);
        clip.deck[next * 4] = by[0]!;
        clip.deck[next * 4 + 2] = by[1]!;
      }
      return next === frames;
    },
  };
}

/** A contact as held pictures show it: the pictures whose poses were taken inside it. Holding starts anew with a loop of `frames`. */
function heldContact(c: ClipContact, hold: number, frames: number): ClipContact {
  if (hold === 1) return c;
  const taken = (f: number) => f - ((((f % frames) + frames) % frames) % hold);
  let from = Math.ceil(c.from - 1e-9),
    to = Math.floor(c.to + 1e-9);
  while (taken(from) < c.from - 1e-9) from++;
  while (taken(to + 1) <= c.to + 1e-9) to++;
  return { ...c, from, to };
}

/** Contacts of a motion in frames of a clip with `perSecond` frames a second; each round's once. */
function contactsOf(motion: Motion, perSecond: number, frames: number, cycles: number, loop: boolean): ClipContact[] {
  const contacts: ClipContact[] = [];
  const { duration, repeat } = motion;
  for (const contact of [...motion.contacts].sort((a, b) => a.side - b.side || a.from - b.from)) {
    const foot = SIDE_NAMES[contact.side];
    if (!repeat) contacts.push({ foot, from: Math.max(0, contact.from * perSecond), to: Math.min(frames - 1, contact.to * perSecond) });
    else
      for (let c = loop ? 0 : -1; c < cycles; c++) {
        const from = (contact.from + c * duration) * perSecond,
          to = (contact.to + c * duration) * perSecond;
        if (loop) contacts.push({ foot, from, to });
        else if (to > 0 && from < frames - 1) contacts.push({ foot, from: Math.max(0, from), to: Math.min(frames - 1, to) });
      }
  }
  return contacts;
}
