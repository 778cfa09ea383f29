import type { Clip, ClipContact } from '../clip/clip';
import { SIDE_NAMES, type SideName } from '../body/roles';
import { toDegrees } from '../math/scalar';
import { addTravel } from '../travel/split';
import { detectContacts } from '../travel/contacts';
import { measureBody } from './body-measures';
import { measureSeam, type Seam } from './seam';
import type { FootModel } from './foot-model';
import { measureSlide, type ContactSlide } from './slide';

/** Everything Nimbret measures of a clip. Fields that make no sense for it are null. */
export interface ClipReport {
  readonly contacts: readonly ClipContact[];
  readonly slides: readonly ContactSlide[];
  readonly slideMm: { readonly atFrames: number | null; readonly between: number | null };
  readonly sinkMm: number;
  readonly floatMm: number;
  readonly stretch: number;
  readonly kneeSnap: number;
  readonly seam: Seam | null;
  readonly travel: { readonly distanceM: number; readonly speedMps: number; readonly directionDeg: number | null; readonly turnDeg: number };
  readonly timing: {
    readonly strideTimeS: number | null;
    readonly strideLengthM: number | null;
    readonly cadencePerMin: number | null;
    readonly dutyFactor: Readonly<Record<SideName, number | null>>;
  };
  /** True where the clip stays in place and its travel was computed from its feet. */
  readonly inPlace: boolean;
}

/**
 * Measures a clip. Contacts: the clip's own where the soles bear them out (each end within a frame of what is seen),
 * otherwise as detected. `closing` is the pose after a loop's last frame, if it is known apart from the first.
 */
export function reportClip(source: Clip, feet: readonly FootModel[], legLength: number, closing?: Float64Array): ClipReport {
  const hold = pictureHold(source);
  const seen = detectHeld(source, hold, feet, legLength);
  const clip = addTravel(source, seen.missingX, seen.missingZ);
  const contacts = borneOut(clip, seen.contacts, hold) ? clip.contacts! : seen.contacts;
  const slides = measureSlide(clip, feet, contacts);
  const most = (pick: (s: ContactSlide) => number) => (slides.length > 0 ? Math.max(...slides.map(pick)) : null);
  const travel = travelOf(clip);
  return {
    contacts,
    slides,
    slideMm: { atFrames: most((s) => s.atFramesMm), between: most((s) => s.betweenMm) },
    ...measureBody(clip, feet, contacts, seen.ground),
    seam: measureSeam(clip, closing),
    travel,
    timing: timingOf(clip, contacts, travel.speedMps),
    inPlace: seen.missingX !== 0 || seen.missingZ !== 0,
  };
}

/** Contacts as the soles show them; of held pictures, from one picture of each group. */
function detectHeld(clip: Clip, hold: number, feet: readonly FootModel[], legLength: number): ReturnType<typeof detectContacts> {
  if (hold === 1) return detectContacts(clip, feet, legLength);
  const size = clip.poses.length / clip.frames;
  const frames = Math.ceil(clip.frames / hold);
  const poses = new Float64Array(frames * size);
  for (let f = 0; f < frames; f++) poses.set(clip.poses.subarray(f * hold * size, (f * hold + 1) * size), f * size);
  const found = detectContacts({ ...clip, frames, poses, rate: clip.rate / hold }, feet, legLength);
  return { ...found, contacts: found.contacts.map((c) => ({ ...c, from: Math.ceil(c.from) * hold, to: Math.floor(c.to) * hold + hold - 1 })) };
}

/** How many pictures each pose of a clip stands for: 2 on twos, 3 on threes, 4 at most. */
function pictureHold({ poses, frames }: Clip): number {
  const size = poses.length / frames;
  const repeats = (f: number) => poses.subarray(f * size, (f + 1) * size).every((v, k) => v === poses[(f - 1) * size + k]);
  for (let n = 4; n > 1; n--) {
    let held = frames > n;
    for (let f = 1; held && f < frames - 1; f++) held = f % n === 0 || repeats(f);
    if (held) return n;
  }
  return 1;
}

function borneOut(clip: Clip, seen: readonly ClipContact[], hold: number): boolean {
  if (!clip.contacts || clip.contacts.length !== seen.length) return false;
  const near = (a: number, b: number) => {
    const d = Math.abs(a - b);
    return Math.min(d, clip.loop ? Math.abs(d - clip.frames) : d) <= 1.5 * hold;
  };
  return clip.contacts.every((c) => seen.some((s) => s.foot === c.foot && near(c.from, s.from) && near(c.to, s.to)));
}

function travelOf(clip: Clip): ClipReport['travel'] {
  const size = clip.poses.length / clip.frames;
  const last = (clip.frames - 1) * size;
  const [dx, dz, seconds] = clip.loop
    ? [clip.loopTravel[0], clip.loopTravel[2], clip.frames / clip.rate]
    : [clip.poses[last]! - clip.poses[0]!, clip.poses[last + 2]! - clip.poses[2]!, Math.max(1, clip.frames - 1) / clip.rate];
  const distanceM = Math.hypot(dx, dz);
  return { distanceM, speedMps: distanceM / seconds, directionDeg: distanceM > 1e-6 ? toDegrees(Math.atan2(dx, dz)) : null, turnDeg: 0 };
}

function timingOf(clip: Clip, contacts: readonly ClipContact[], speed: number): ClipReport['timing'] {
  const strideFrames = (foot: SideName): number | null => {
    const own = contacts.filter((c) => c.foot === foot);
    if (clip.loop) return own.length > 0 ? clip.frames / own.length : null;
    return own.length > 1 ? (own[own.length - 1]!.from - own[0]!.from) / (own.length - 1) : null;
  };
  const duty = (foot: SideName): number | null => {
    const stride = strideFrames(foot);
    let own = contacts.filter((c) => c.foot === foot);
    // Contacts cut off by the ends of a clip that does not loop say nothing about their length.
    if (!clip.loop) own = own.filter((c) => c.from > 0 && c.to < clip.frames - 1);
    if (!stride || own.length === 0) return null;
    return own.reduce((sum, c) => sum + c.to - c.from, 0) / own.length / stride;
  };
  const stride = strideFrames('left') ?? strideFrames('right');
  const strideTimeS = stride === null ? null : stride / clip.rate;
  return {
    strideTimeS,
    strideLengthM: strideTimeS === null ? null : speed * strideTimeS,
    cadencePerMin: strideTimeS === null ? null : 120 / strideTimeS,
    dutyFactor: Object.fromEntries(SIDE_NAMES.map((s) => [s, duty(s)])) as Record<SideName, number | null>,
  };
}
