import RestartAltIcon from '@mui/icons-material/RestartAlt';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Slider from '@mui/material/Slider';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import { clamp } from '@/core/math/scalar';
import { STEPS, type Range } from '@/core/gait/parameters';
import { freshMark } from '../document/history';
import { useSession } from '../stage/session';
import { TimeUnit, useTimes } from '../stage/times';
import { TypedField } from './number-field';
import { stepped, stepsOf } from './stepping';
import { readTyped } from './typed';
import { inFrames, shownUnit, type StripUnit } from './units';
import { shownValue } from './words';

interface Props {
  readonly path: string;
  readonly label: string;
  readonly tooltip: string;
  readonly unit: StripUnit;
  /** One step of slider, box and wheel, in the core's unit. */
  readonly step?: number;
  readonly range: Range;
  /** Ends of the slider, where they are nearer than those of the box. */
  readonly slides?: Range;
  readonly value: number;
  readonly fallback: number;
  /** The curve in miniature, for channels. */
  readonly picture?: ReactNode;
  /** In front of the label. */
  readonly lead?: ReactNode;
  /** Behind the label. */
  readonly note?: ReactNode;
  /** At the end of the row. */
  readonly tail?: ReactNode;
  readonly indent?: boolean;
  readonly disabled?: boolean;
  /** Spoken name where the label alone does not say which value it is. */
  readonly spoken?: string;
  /** `mark` is the same during one drag and null for single edits. May say why the value was not taken as it was. */
  readonly onChange: (value: number, mark: string | null) => string | null | void;
}

/** Time (ms) within which steps are taken back together. */
const TOGETHER_MS = 600;
/** Parts of a step that a dragged slider goes by. */
const FINE = 10;
const SPOKEN: Readonly<Record<string, string>> = {
  '°': 'degrees',
  '%': 'percent',
  '×': 'times',
  fr: 'frames',
  cm: 'centimetres',
  m: 'metres',
  s: 'seconds',
  'm/s': 'metres a second',
  Hz: 'hertz',
};

/** A row for one value of the gait: name, curve, slider, number, reset. */
export function ChannelStrip({
  path,
  label,
  tooltip,
  unit,
  step = unit === 'frames' ? 0.5 : STEPS[unit],
  range,
  slides = range,
  value,
  fallback,
  picture,
  lead,
  note,
  tail,
  indent,
  disabled,
  spoken = label,
  onChange,
}: Props) {
  const times = useTimes();
  const usual = shownUnit(unit, path);
  const shown = unit === 's' && times.unit === 'fr' ? inFrames(times).shown : usual;
  const fps = useSession((s) => s.fps);
  const dragging = useRef<string | null>(null);
  const stepping = useRef({ mark: '', at: -Infinity });
  const [min, max] = [shown.toScreen(Math.min(slides[0], value)), shown.toScreen(Math.max(slides[1], value))];
  const name = usual.label ? `${spoken} (${usual.label === '°' ? 'degrees' : shown.label === '%' ? 'percent' : shown.label})` : spoken;
  const departs = Math.abs(value - fallback) > 1e-9;
  const stepBy = (steps: number) => {
    // Without a whole step to go by a count moves by one.
    const wanted = stepped(value, unit === 'count' ? Math.sign(steps) * Math.max(1, Math.abs(steps)) : steps, step);
    const next = clamp(wanted, range[0], range[1]);
    // Steps that follow each other at once, as of a key held down, are one step of undo.
    const now = performance.now();
    stepping.current = { mark: now - stepping.current.at < TOGETHER_MS ? stepping.current.mark : freshMark(`keys ${path}`), at: now };
    return (
      onChange(next, stepping.current.mark) ??
      (next !== wanted && Math.abs(next - value) < 1e-12 ? `${steps > 0 ? 'at most' : 'at least'} ${shownValue(shown, next)}` : null)
    );
  };
  const onKey = (e: KeyboardEvent) => {
    const steps = stepsOf(e);
    if (steps === 0) return;
    e.preventDefault();
    e.stopPropagation();
    stepBy(steps);
  };
  return (
    <Box
      data-strip={path}
      sx={{
        display: 'grid',
        gridTemplateColumns: '134px 46px minmax(40px, 1fr) 58px 24px 20px 18px',
        alignItems: 'center',
        columnGap: 0.5,
        height: 27,
        borderBottom: '1px solid',
        borderColor: 'divider',
      }}
    >
      <Typography
        component="span"
        noWrap
        sx={{ fontSize: 13, pl: indent ? 1.5 : 0, color: indent ? 'text.secondary' : 'text.primary', display: 'flex', alignItems: 'center', gap: 0.5 }}
      >
        {lead}
        <Tooltip title={tooltip} describeChild disableInteractive>
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {label}
          </Box>
        </Tooltip>
        {note}
      </Typography>
      {picture !== undefined && <Box>{picture}</Box>}
      <Box onKeyDownCapture={onKey} sx={{ gridColumn: picture === undefined ? 'span 2' : 'auto', display: 'flex' }}>
        <Slider
          size="small"
          aria-label={name}
          min={min}
          max={max}
          step={unit === 'count' ? 1 : Math.abs(shown.toScreen(step) - shown.toScreen(0)) / FINE}
          value={shown.toScreen(value)}
          getAriaValueText={(v) => `${v.toFixed(shown.digits)} ${SPOKEN[shown.label] ?? shown.label}`.trim()}
          disabled={disabled ?? false}
          onChange={(_, v) => {
            dragging.current ??= freshMark(path);
            onChange(clamp(shown.toCore(v as number), range[0], range[1]), dragging.current);
          }}
          onChangeCommitted={() => (dragging.current = null)}
          sx={{
            py: 0.5,
            '& .MuiSlider-thumb': { width: 9, height: 15, borderRadius: '2px' },
            '& .MuiSlider-track': { height: 2 },
            '& .MuiSlider-rail': { height: 1 },
          }}
        />
      </Box>
      <TypedField
        label={`${name}, number`}
        text={shown.toScreen(value).toFixed(shown.digits)}
        read={(text) => readTyped(text, unit, shown, range, fps)}
        onTyped={(v) => onChange(v, null)}
        onStep={stepBy}
      />
      {unit === 's' ? (
        <TimeUnit width={24} />
      ) : (
        <Typography component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
          {shown.label}
        </Typography>
      )}
      <IconButton
        size="small"
        aria-label={`Reset ${spoken}`}
        disabled={!departs}
        onClick={() => onChange(fallback, null)}
        sx={{ p: 0.25, visibility: departs ? 'visible' : 'hidden' }}
      >
        <RestartAltIcon sx={{ fontSize: 16 }} />
      </IconButton>
      <span>{tail}</span>
    </Box>
  );
}
