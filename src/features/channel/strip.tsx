import RestartAltIcon from './icons/reset';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Slider from '@mui/material/Slider';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useRef, type ReactNode } from 'react';
import type { Range } from '@/core/gait/parameters';
import { freshMark } from '../document/history';
import { NumberField } from './number-field';
import { shownUnit, type StripUnit } from './units';

interface Props {
  readonly path: string;
  readonly label: string;
  readonly tooltip: string;
  readonly unit: StripUnit;
  readonly range: Range;
  readonly value: number;
  readonly fallback: number;
  /** The curve in miniature, for channels. */
  readonly picture?: ReactNode;
  /** In front of the label. */
  readonly lead?: ReactNode;
  readonly indent?: boolean;
  readonly disabled?: boolean;
  /** Spoken name where the label alone does not say which value it is. */
  readonly spoken?: string;
  /** `mark` is the same during one drag and null for single edits. */
  readonly onChange: (value: number, mark: string | null) => void;
}

/** A row for one value of the gait: name, curve, slider, number, reset. */
export function ChannelStrip({ path, label, tooltip, unit, range, value, fallback, picture, lead, indent, disabled, spoken = label, onChange }: Props) {
  const shown = shownUnit(unit, path);
  const dragging = useRef<string | null>(null);
  const [min, max] = [shown.toScreen(range[0]), shown.toScreen(range[1])];
  const set = (screen: number, mark: string | null) => onChange(Math.min(range[1], Math.max(range[0], shown.toCore(screen))), mark);
  const name = shown.label ? `${spoken} (${shown.label === '°' ? 'degrees' : shown.label === '%' ? 'percent' : shown.label})` : spoken;
  const departs = Math.abs(value - fallback) > 1e-9;
  return (
    <Tooltip title={tooltip}>
      <Box
        data-strip={path}
        sx={{
          display: 'grid',
          gridTemplateColumns: '128px 46px 1fr 58px 24px 26px',
          alignItems: 'center',
          columnGap: 0.75,
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
          {label}
        </Typography>
        {picture !== undefined && <Box>{picture}</Box>}
        <Slider
          size="small"
          aria-label={name}
          min={min}
          max={max}
          step={unit === 'count' ? 1 : shown.step / 5}
          value={shown.toScreen(value)}
          disabled={disabled ?? false}
          onChange={(_, v) => {
            dragging.current ??= freshMark(path);
            set(v as number, dragging.current);
          }}
          onChangeCommitted={() => (dragging.current = null)}
          sx={{
            gridColumn: picture === undefined ? 'span 2' : 'auto',
            py: 0.5,
            '& .MuiSlider-thumb': { width: 9, height: 15, borderRadius: '2px' },
            '& .MuiSlider-track': { height: 2 },
            '& .MuiSlider-rail': { height: 1 },
          }}
        />
        <NumberField
          label={`${name}, number`}
          value={shown.toScreen(value)}
          digits={shown.digits}
          step={shown.step}
          min={min}
          max={max}
          onChange={(v) => set(v, null)}
        />
        <Typography component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
          {shown.label}
        </Typography>
        <IconButton
          size="small"
          aria-label={`Reset ${spoken}`}
          disabled={!departs}
          onClick={() => onChange(fallback, null)}
          sx={{ p: 0.25, visibility: departs ? 'visible' : 'hidden' }}
        >
          <RestartAltIcon />
        </IconButton>
      </Box>
    </Tooltip>
  );
}
