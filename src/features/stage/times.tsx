import Box from '@mui/material/Box';
import { useSession } from './session';

/** How times are read at present: in seconds, or in frames of the rate it is played at. */
export interface Times {
  readonly unit: 's' | 'fr';
  readonly digits: number;
  /** Units in a second. */
  readonly rate: number;
  /** A time (s) in words. */
  readonly words: (seconds: number) => string;
  /** From one time (s) to another, in words. */
  readonly between: (from: number, to: number) => string;
}

const inSeconds: Times = { unit: 's', digits: 2, rate: 1, words: (s) => `${s.toFixed(2)} s`, between: (a, b) => `${a.toFixed(2)} to ${b.toFixed(2)} s` };

export function useTimes(): Times {
  const frames = useSession((s) => s.timesInFrames);
  const fps = useSession((s) => s.fps);
  return frames
    ? {
        unit: 'fr',
        digits: 1,
        rate: fps,
        words: (s) => `${(s * fps).toFixed(1)} fr`,
        between: (a, b) => `${(a * fps).toFixed(1)} to ${(b * fps).toFixed(1)} fr`,
      }
    : inSeconds;
}

/** The unit behind a time; pressed, all times are read in the other one, as by the key U. */
export function TimeUnit({ width }: { width: number }) {
  const frames = useSession((s) => s.timesInFrames);
  const set = useSession((s) => s.set);
  return (
    <Box
      component="span"
      title={`${frames ? 'Frames; press to read all times in seconds' : 'Seconds; press to read all times in frames'} (U). Either can be typed.`}
      onClick={() => set({ timesInFrames: !frames })}
      sx={{ fontSize: 12, color: 'text.secondary', width, cursor: 'pointer', textDecoration: 'underline dotted', textUnderlineOffset: '3px' }}
    >
      {frames ? 'fr' : 's'}
    </Box>
  );
}
