import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import type { Draft } from 'immer';
import { useState } from 'react';
import { toDegrees, toRadians } from '@/core/math/scalar';
import type { Layer } from '@/core/travel/layer-spec';
import { layerValue } from '@/core/travel/layer-value';
import { NameInPlace } from '../library/name-in-place';
import type { Clock } from '../stage/clock';
import { useTimes } from '../stage/times';
import { Figures, FiguresGrid } from '../steps/cells';
import { clipSeconds, keyOf, SAME_S, turnsOnly, useTimeAtRest } from './layer-keys';
import type { ClipOnStage } from './use-clip';

const MOVES = ['left', 'up', 'forward'] as const;
const TURNS = ['nod', 'turn', 'tip'] as const;
const TURN_ABOUT = ['about its left: nods down', 'about up: turns to the left', 'about forward: tips to the right'] as const;

interface EditorProps {
  readonly layer: Layer;
  readonly clip: ClipOnStage;
  readonly clock: Clock;
  readonly onEdit: (label: string, recipe: (layer: Draft<Layer>) => void, mark?: string | null) => void;
  readonly onDuplicate: () => void;
  readonly onRemove: () => void;
  readonly onMove: { readonly up?: () => void; readonly down?: () => void };
}

/** One layer: how it is laid, its numbers at the playhead, its weight and when it fades. */
export function LayerEditor({ layer, clip, clock, onEdit, onDuplicate, onRemove, onMove }: EditorProps) {
  const times = useTimes();
  const [naming, setNaming] = useState(false);
  const { rate, duration, loop } = clipSeconds(clip);
  const time = useTimeAtRest(clock, rate, duration, loop);
  const here = new Float64Array(6);
  layerValue(layer, loop ? duration : null)(time, here);
  const keyed = layer.keys.findIndex((k) => Math.abs(k.at - time) < SAME_S);
  const turns = turnsOnly(layer);
  /** Sets one of the six numbers at the playhead, in a key there. */
  const put = (k: number, value: number) =>
    onEdit(
      `${layer.name} at ${time.toFixed(2)} s`,
      (l) => {
        const key = keyOf(l, time, here);
        if (k < 3) key.move[k] = value;
        else key.turn[k - 3] = value;
      },
      `layer ${layer.name} ${time} ${k}`,
    );
  const fade = layer.fade ?? wholeFade('time', duration);
  const [most, unit] = fade.over === 'phase' ? [1, 'str'] : [duration, 's'];
  const setFade = (name: 'from' | 'to' | 'in' | 'out', v: number) =>
    onEdit(`fade of ${layer.name}`, (l) => void (l.fade = { ...fade, [name]: v }), `fade ${name}`);
  return (
    <Box sx={{ display: 'grid', gap: 0.75, borderTop: 1, borderColor: 'divider', pt: 1 }} data-testid="layer">
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.25, '& .MuiButton-root': { minWidth: 0, px: 1 } }}>
        <Button onClick={() => setNaming(!naming)}>Rename</Button>
        <Button onClick={onDuplicate}>Duplicate</Button>
        <Button onClick={onRemove}>Remove</Button>
        <Button aria-label="Layer up" disabled={!onMove.up} onClick={onMove.up}>
          ↑
        </Button>
        <Button aria-label="Layer down" disabled={!onMove.down} onClick={onMove.down}>
          ↓
        </Button>
        <Select
          value={layer.mode}
          variant="standard"
          inputProps={{ 'aria-label': 'Added or in its place' }}
          onChange={(e) => onEdit('mode of a layer', (l) => void (l.mode = e.target.value))}
          sx={{ ml: 'auto' }}
        >
          <MenuItem value="additive">additive</MenuItem>
          <MenuItem value="replacing" disabled={!turns}>
            replacing
          </MenuItem>
        </Select>
      </Box>
      {naming && (
        <NameInPlace
          label="Name of the layer"
          start={layer.name}
          doIt="Rename"
          onDone={(name) => {
            onEdit('rename layer', (l) => void (l.name = name));
            setNaming(false);
          }}
          onGiveUp={() => setNaming(false)}
        />
      )}
      <Typography variant="h3">At the playhead, {times.words(time)}</Typography>
      {!turns && (
        <FiguresGrid>
          {MOVES.map((word, k) => (
            <Figures
              key={word}
              name={`Moved ${word}`}
              label={word}
              unit="cm"
              digits={1}
              step={0.5}
              value={here[k]! * 100}
              range={[-500, 500]}
              onChange={(v) => put(k, v / 100)}
            />
          ))}
        </FiguresGrid>
      )}
      <FiguresGrid>
        {TURNS.map((word, k) => (
          <Box key={word} title={`Turned ${TURN_ABOUT[k]}`}>
            <Figures
              name={`Turned, ${word}`}
              label={word}
              unit="°"
              digits={1}
              step={1}
              value={toDegrees(here[3 + k]!)}
              range={[-360, 360]}
              onChange={(v) => put(3 + k, toRadians(v))}
            />
          </Box>
        ))}
      </FiguresGrid>
      <Box sx={{ display: 'flex', gap: 0.5 }}>
        <Button disabled={keyed >= 0} onClick={() => put(0, here[0]!)}>
          Key here
        </Button>
        <Button disabled={keyed < 0} onClick={() => onEdit('remove a key', (l) => void l.keys.splice(keyed, 1))}>
          Remove key
        </Button>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Figures
          name="Weight"
          label="weight"
          unit="%"
          digits={0}
          step={5}
          value={layer.weight * 100}
          range={[0, 100]}
          onChange={(v) => onEdit('weight', (l) => void (l.weight = v / 100), 'weight')}
        />
        <FormControlLabel
          control={
            <Switch
              size="small"
              checked={layer.fade !== null}
              onChange={(_, on) => onEdit(on ? 'fade' : 'no fade', (l) => void (l.fade = on ? wholeFade('time', duration) : null))}
            />
          }
          label="fades"
        />
      </Box>
      {layer.fade && (
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          <Select
            value={fade.over}
            variant="standard"
            inputProps={{ 'aria-label': 'Fades over' }}
            onChange={(ev) => onEdit('what a fade goes over', (l) => void (l.fade = wholeFade(ev.target.value, duration)))}
            sx={{ justifySelf: 'start' }}
          >
            <MenuItem value="time">over the time of the clip</MenuItem>
            <MenuItem value="phase">over each stride, from a left landing</MenuItem>
          </Select>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 0.5 }}>
            <Figures name="Fades in from" label="from" unit={unit} value={fade.from} range={[0, most]} onChange={(v) => setFade('from', v)} />
            <Figures name="Fades in within" label="in" unit={unit} value={fade.in} range={[0, most]} onChange={(v) => setFade('in', v)} />
            <Figures name="Fades out to" label="to" unit={unit} value={fade.to} range={[0, most]} onChange={(v) => setFade('to', v)} />
            <Figures name="Fades out within" label="out" unit={unit} value={fade.out} range={[0, most]} onChange={(v) => setFade('out', v)} />
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** A fade as it begins: the whole of the clip, or the first half of each stride. */
function wholeFade(over: 'time' | 'phase', duration: number): NonNullable<Layer['fade']> {
  if (over === 'phase') return { over, from: 0, to: 0.5, in: 0.1, out: 0.1 };
  const edge = Math.min(0.2, duration / 2);
  return { over, from: 0, to: duration, in: edge, out: edge };
}
