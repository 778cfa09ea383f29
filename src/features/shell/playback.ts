import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';

export function togglePlay(clock: Clock, motion: StageMotion): void {
  const playing = !clock.playing;
  // Playing on from a finished motion starts it again.
  if (playing && !motion.endless && clock.time >= motion.duration) clock.set(0);
  clock.playing = playing;
}

/** Steps to the next or previous whole frame at the chosen rate and pauses. */
export function stepFrame(clock: Clock, motion: StageMotion, by: 1 | -1): void {
  clock.playing = false;
  const { fps } = clock.session.getState();
  const frame = Math.round(clock.time * fps) + by;
  const time = Math.max(0, frame / fps);
  clock.set(motion.endless ? time : Math.min(motion.duration, time));
}

/** Jumps to the next or previous landing or lift-off and pauses. */
export function stepContact(clock: Clock, motion: StageMotion, by: 1 | -1): void {
  clock.playing = false;
  const { duration, endless, source } = motion;
  const reach = source.strideTime;
  const events = new Set(source.footholds(clock.time - reach, clock.time + reach).flatMap((h) => [h.landing, h.leaving]));
  const sorted = [...events].filter((t) => t >= 0 && (endless || t <= duration)).sort((a, b) => a - b);
  const next = by > 0 ? sorted.find((t) => t > clock.time + 1e-4) : sorted.reverse().find((t) => t < clock.time - 1e-4);
  if (next !== undefined) clock.set(next);
}

/** Time (s) after which a motion starts again, or ends: a loop may take several strides to close. */
const loopTime = ({ duration, endless, source }: StageMotion): number => duration * (endless ? source.rounds : 1);

/** The first picture: of the loop that is playing, or of the plan. */
export function goToStart(clock: Clock, motion: StageMotion): void {
  clock.playing = false;
  const { endless } = motion,
    duration = loopTime(motion);
  clock.set(endless ? Math.floor(clock.time / duration + 1e-9) * duration : 0);
}

/** The last picture before the motion starts again, or a plan's end. */
export function goToEnd(clock: Clock, motion: StageMotion): void {
  clock.playing = false;
  const { endless } = motion,
    duration = loopTime(motion);
  const { fps } = clock.session.getState();
  const pictures = Math.max(1, Math.ceil(duration * fps - 1e-6));
  clock.set(endless ? Math.floor(clock.time / duration + 1e-9) * duration + (pictures - 1) / fps : duration);
}
