import Box from '@mui/material/Box';
import InputBase from '@mui/material/InputBase';
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { clamp } from '@/core/math/scalar';
import { useSession } from '../stage/session';
import { useTimes } from '../stage/times';
import { stepped, stepsOf } from './stepping';
import { readTyped, type Typed } from './typed';
import { fieldUnit, inFrames } from './units';

interface TypedFieldProps {
  readonly label: string;
  /** As it is shown while nobody types. */
  readonly text: string;
  readonly read: (typed: string) => Typed;
  /** Sets the value a person typed, in the core's unit; what it returns says why it was not taken as it was. */
  readonly onTyped: (value: number) => string | null | void;
  readonly onStep: (steps: number) => string | null | void;
}

/** How long (ms) a word about what was typed stays. */
const SAID_MS = 5000;

/** Room (px) the words about a field take. */
const WORDS_PX = 240;

/** Whether words that end where a field ends would go over the left edge of its panel. */
function nearLeftEdge(field: HTMLElement | null): boolean {
  const panel = field?.closest('aside');
  return field !== null && panel !== null && panel !== undefined && field.getBoundingClientRect().right - panel.getBoundingClientRect().left < WORDS_PX;
}

/**
 * A number that is typed and stepped. Enter takes it and gives the keys back to the motion, leaving takes it too, Escape gives
 * up; arrow keys and, while it has the focus, the wheel step it: Shift ten, Alt a tenth. A refused text stays to be mended and says
 * why, as does a value taken to the nearest that can be reached. With nothing uncommitted undo is the document's.
 */
export function TypedField({ label, text, read, onTyped, onStep }: TypedFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [said, setSaid] = useState<{ readonly words: string; readonly bad: boolean; readonly toRight: boolean } | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const say = (words: string | null | void, bad: boolean) => setSaid(words ? { words, bad, toRight: nearLeftEdge(input.current) } : null);
  const step = (steps: number) => {
    setTyped(null);
    if (steps !== 0) say(onStep(steps), false);
  };
  const latest = useRef(step);
  useEffect(() => {
    latest.current = step;
  });
  useEffect(() => {
    const node = input.current!;
    // React's own wheel listener may not keep the panel from scrolling.
    const onWheel = (e: WheelEvent) => {
      if (document.activeElement !== node) return;
      e.preventDefault();
      latest.current(stepsOf(e));
    };
    node.addEventListener('wheel', onWheel, { passive: false });
    return () => node.removeEventListener('wheel', onWheel);
  }, []);
  useEffect(() => {
    if (!said || said.bad) return;
    const timer = setTimeout(() => setSaid(null), SAID_MS);
    return () => clearTimeout(timer);
  }, [said]);
  const commit = () => {
    setTyped(null);
    if (typed === null || typed === text) return;
    const outcome = read(typed);
    if ('value' in outcome) return say(onTyped(outcome.value) ?? outcome.why, false);
    input.current?.animate([{ backgroundColor: '#B3352B' }, {}], 700);
    // It is kept to be mended, with the reason beside it.
    setTyped(typed);
    say(outcome.refused, true);
  };
  const onKey = (e: KeyboardEvent) => {
    if (e.key === 'Enter') input.current!.blur();
    else if (e.key === 'Escape') {
      setTyped(null);
      setSaid(null);
    } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
      e.preventDefault();
      step(stepsOf(e));
    }
  };
  return (
    <Box component="span" sx={{ position: 'relative', display: 'inline-block' }}>
      <InputBase
        inputRef={input}
        value={typed ?? text}
        onChange={(e) => {
          setTyped(e.target.value);
          setSaid(null);
        }}
        onFocus={(e) => e.target.select()}
        onBlur={commit}
        onKeyDown={onKey}
        inputProps={{ 'aria-label': label, inputMode: 'decimal', 'data-committed': typed === null, 'aria-invalid': said?.bad === true }}
        sx={{
          width: 58,
          fontSize: 13,
          '& input': { textAlign: 'right', padding: '1px 4px', height: 24, boxSizing: 'border-box', borderBottom: 1, borderColor: 'divider' },
        }}
      />
      {said && (
        <Box
          component="span"
          role="status"
          sx={{
            position: 'absolute',
            top: '100%',
            [said.toRight ? 'left' : 'right']: 0,
            zIndex: 3,
            px: 0.75,
            whiteSpace: 'nowrap',
            fontSize: 12,
            border: 1,
            bgcolor: 'background.paper',
            borderColor: said.bad ? 'error.main' : 'text.primary',
            color: said.bad ? 'error.main' : 'text.primary',
          }}
        >
          {said.words}
        </Box>
      )}
    </Box>
  );
}

interface Props {
  readonly label: string;
  readonly value: number;
  readonly digits: number;
  readonly step: number;
  readonly min: number;
  readonly max: number;
  /** The unit that stands behind it, in which it is kept; others may be typed. */
  readonly unit?: string;
  readonly onChange: (value: number) => void;
}

/** A number between two ends, kept in the unit that stands behind it. */
export function NumberField({ label, value, digits, step, min, max, unit = '', onChange }: Props) {
  const fps = useSession((s) => s.fps);
  const times = useTimes();
  const frames = unit === 's' && times.unit === 'fr';
  const read = frames ? inFrames(times) : fieldUnit(unit, digits);
  return (
    <TypedField
      label={label}
      text={read.shown.toScreen(value).toFixed(read.shown.digits)}
      read={(text) => readTyped(text, read.unit, read.shown, [min, max], fps)}
      onTyped={onChange}
      onStep={(steps) => onChange(clamp(stepped(value, steps, frames ? 1 / times.rate : step), min, max))}
    />
  );
}
