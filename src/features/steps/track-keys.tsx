import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { memo, type ReactNode } from 'react';
import { LONGEST, type TrackSpec } from '@/core/steps/plan';
import { useStable } from '../stage/use-stable';
import { Figures, rowSx } from './cells';

const NEXT_WORDS = { held: 'held', linear: 'evenly', smooth: 'smoothly' } as const;

/** A track's name, what it is about, and what can be done to it as a whole. */
export function Head({ label, about, children }: { label: string; about: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }} title={about}>
      <Typography variant="h3" sx={{ flex: 1 }}>
        {label}
      </Typography>
      {children}
    </Box>
  );
}

interface KeyRowsProps {
  /** What it is called, and told apart by. */
  readonly label: string;
  readonly id: string;
  readonly unit: string;
  readonly track: TrackSpec;
  readonly range: readonly [number, number];
  /** Changes the keys; `what` is done to them. */
  readonly onKeys: (what: string, recipe: (keys: TrackSpec['keys']) => void) => void;
}

/** The keys of a track, one a row; while one is dragged the others are not rendered again. */
export function KeyRows({ track, onKeys, ...of }: KeyRowsProps) {
  const change = useStable(onKeys);
  return track.keys.map((key, i) => (
    <KeyRow
      key={i}
      {...of}
      i={i}
      its={key}
      over={track.over}
      least={i > 0 ? track.keys[i - 1]!.at + 0.01 : 0}
      most={track.keys[i + 1] ? track.keys[i + 1]!.at - 0.01 : LONGEST.distance}
      alone={track.keys.length < 2}
      onKeys={change}
    />
  ));
}

interface KeyRowProps extends Omit<KeyRowsProps, 'track'> {
  readonly i: number;
  readonly its: TrackSpec['keys'][number];
  readonly over: TrackSpec['over'];
  /** Between what it may lie. */
  readonly least: number;
  readonly most: number;
  readonly alone: boolean;
}

const KeyRow = memo(function KeyRow({ label, id, unit, range, i, its, over, least, most, alone, onKeys }: KeyRowProps) {
  const small = label.toLowerCase();
  return (
    <Box data-key={`${id} ${i}`} sx={{ ...rowSx(false), display: 'flex', gap: 0.5, alignItems: 'center' }}>
      <Figures
        name={`${label} key ${i + 1} at`}
        label="at"
        unit={over === 'distance' ? 'm' : 's'}
        value={its.at}
        range={[least, most]}
        step={0.1}
        onChange={(v) => onKeys(`key of ${small}`, (keys) => void (keys[i]!.at = v))}
      />
      <Figures
        name={`${label} key ${i + 1}`}
        label=""
        unit={unit}
        value={its.value}
        range={range}
        step={0.05}
        onChange={(v) => onKeys(`key of ${small}`, (keys) => void (keys[i]!.value = v))}
      />
      <Select
        value={its.next}
        variant="standard"
        inputProps={{ 'aria-label': `${label} key ${i + 1} goes on` }}
        onChange={(e) => onKeys(`key of ${small}`, (keys) => void (keys[i]!.next = e.target.value))}
        sx={{ fontSize: 13 }}
      >
        {(['held', 'linear', 'smooth'] as const).map((n) => (
          <MenuItem key={n} value={n}>
            {NEXT_WORDS[n]}
          </MenuItem>
        ))}
      </Select>
      <Button
        aria-label={`Remove ${small} key ${i + 1}`}
        disabled={alone}
        onClick={() => onKeys('remove a key', (keys) => void keys.splice(i, 1))}
        sx={{ minWidth: 0 }}
      >
        Remove
      </Button>
    </Box>
  );
});
