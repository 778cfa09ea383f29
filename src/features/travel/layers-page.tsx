import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState, useSyncExternalStore } from 'react';
import type { Draft } from 'immer';
import { toDegrees, toRadians } from '@/core/math/scalar';
import { ALL_TARGETS, newLayer, type Layer, type LayerKey, type LayerTarget } from '@/core/travel/layer-spec';
import { layerValue } from '@/core/travel/layer-value';
import { NameInPlace } from '../library/name-in-place';
import { freeName } from '../library/actions';
import type { Clock } from '../stage/clock';
import { useSession } from '../stage/session';
import { Figures, FiguresGrid, rowSx } from '../steps/cells';
import { useClipChange } from './editing';
import type { ClipOnStage } from './use-clip';

/** A target as a person reads it. */
const targetWords = (target: LayerTarget): string =>
  target
    .replace(/^joint /, 'turn of ')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();
const MOVES = ['left', 'up', 'forward'] as const;
const TURNS = ['nod', 'turn', 'tip'] as const;
const TURN_ABOUT = ['about its left: nods down', 'about up: turns to the left', 'about forward: tips to the right'] as const;
/** Two keys nearer than this (s) are one. */
const SAME_S = 1e-3;

/** Layers of corrections over a clip: what each acts on, when, and how far at the playhead. */
export function LayersPage({ clip, clock }: { clip: ClipOnStage; clock: Clock }) {
  const change = useClipChange(clip.id);
  const { layers, baked } = clip.spec;
  const chosen = useSession((s) => s.layer);
  const set = useSession((s) => s.set);
  const ghost = useSession((s) => s.clipGhost);
  const [target, setTarget] = useState<LayerTarget>('hips');
  const at = Math.min(chosen ?? layers.length - 1, layers.length - 1);
  const layer = layers[at];
  const edit = (label: string, recipe: (layers: Draft<Layer[]>) => void, mark: string | null = null) => change(label, (c) => recipe(c.layers), mark);
  const add = () => {
    const name = freeName(
      targetWords(target),
      layers.map((l) => l.name),
    );
    edit(`add layer ${name}`, (all) => void all.push(newLayer(name, target)));
    set({ layer: layers.length });
  };
  const move = (by: -1 | 1) => {
    edit('order of layers', (all) => {
      const [one] = all.splice(at, 1);
      all.splice(at + by, 0, one!);
    });
    set({ layer: at + by });
  };
  return (
    <Box sx={{ display: 'grid', gap: 1, gridTemplateColumns: 'minmax(0, 1fr)' }}>
      <FormControlLabel
        control={<Switch size="small" checked={ghost} onChange={(_, on) => set({ clipGhost: on })} />}
        label="ghost of the clip without lock and layers"
      />
      <Box data-testid="layers">
        {layers.length === 0 && <Typography sx={{ fontSize: 13 }}>No corrections yet. Add a layer, then a key at the playhead.</Typography>}
        {[...layers].reverse().map((l, k) => {
          const i = layers.length - 1 - k;
          return (
            <Box key={i} sx={{ ...rowSx(i === at), display: 'flex', alignItems: 'center', gap: 0.5, cursor: 'pointer' }} onClick={() => set({ layer: i })}>
              <Typography noWrap sx={{ flex: 1, fontWeight: i === at ? 600 : 400, textDecoration: l.mute ? 'line-through' : 'none' }}>
                {l.name}
              </Typography>
              <Typography sx={{ fontSize: 12, color: 'text.secondary' }}>{l.keys.length === 1 ? 'one key' : `${l.keys.length} keys`}</Typography>
              <ToggleButtonGroup
                size="small"
                value={[...(l.mute ? ['mute'] : []), ...(l.solo ? ['solo'] : [])]}
                aria-label={`Mute and solo of ${l.name}`}
                onChange={(_, on: string[]) =>
                  edit('mute and solo', (all) => {
                    all[i]!.mute = on.includes('mute');
                    all[i]!.solo = on.includes('solo');
                  })
                }
                sx={{ '& .MuiToggleButton-root': { py: 0, px: 0.75, fontSize: 11.5 } }}
              >
                <ToggleButton value="mute">mute</ToggleButton>
                <ToggleButton value="solo">solo</ToggleButton>
              </ToggleButtonGroup>
            </Box>
          );
        })}
      </Box>
      <Box sx={{ display: 'flex', gap: 0.5 }}>
        <Select
          value={target}
          inputProps={{ 'aria-label': 'What a new layer acts on' }}
          onChange={(e) => setTarget(e.target.value)}
          sx={{ flex: 1, minWidth: 0 }}
        >
          {ALL_TARGETS.map((t) => (
            <MenuItem key={t} value={t}>
              {targetWords(t)}
            </MenuItem>
          ))}
        </Select>
        <Button variant="outlined" onClick={add}>
          Add layer
        </Button>
      </Box>
      {layer && (
        <LayerEditor
          key={at}
          layer={layer}
          clip={clip}
          clock={clock}
          onEdit={(label, recipe, mark) => edit(label, (all) => recipe(all[at]!), mark)}
          onDuplicate={() => {
            edit(
              `duplicate ${layer.name}`,
              (all) =>
                void all.splice(at + 1, 0, {
                  ...layer,
                  name: freeName(
                    layer.name,
                    layers.map((l) => l.name),
                  ),
                  keys: layer.keys.map((k) => ({ ...k, move: [...k.move], turn: [...k.turn] })) as Draft<LayerKey[]>,
                }),
            );
            set({ layer: at + 1 });
          }}
          onRemove={() => edit(`remove ${layer.name}`, (all) => void all.splice(at, 1))}
          onMove={{ ...(at > 0 ? { down: () => move(-1) } : {}), ...(at + 1 < layers.length ? { up: () => move(1) } : {}) }}
        />
      )}
      {(layers.length > 0 || baked.length > 0) && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Button
            disabled={layers.every((l) => l.keys.length === 0)}
            title="The layers become part of the clip; only undo brings them back as layers."
            onClick={() =>
              change('bake the layers down', (c) => {
                const solo = c.layers.some((l) => l.solo && !l.mute);
                c.baked.push(...c.layers.filter((l) => l.keys.length > 0 && !l.mute && (!solo || l.solo)).map((l) => ({ ...l, solo: false })));
                c.layers = [];
              })
            }
          >
            Bake layers down
          </Button>
          {baked.length > 0 && (
            <Typography sx={{ fontSize: 12.5, color: 'text.secondary' }}>
              {baked.length === 1 ? 'one layer is baked in' : `${baked.length} layers are baked in`}
            </Typography>
          )}
        </Box>
      )}
    </Box>
  );
}

interface EditorProps {
  readonly layer: Layer;
  readonly clip: ClipOnStage;
  readonly clock: Clock;
  readonly onEdit: (label: string, recipe: (layer: Draft<Layer>) => void, mark?: string | null) => void;
  readonly onDuplicate: () => void;
  readonly onRemove: () => void;
  readonly onMove: { readonly up?: () => void; readonly down?: () => void };
}

/** The playhead's time in the clip, rounded to its pictures; rendered anew only while it stands still. */
function useTimeAtRest(clock: Clock, rate: number, duration: number, loop: boolean): number {
  const read = () => {
    const t = loop ? clock.time - Math.floor(clock.time / duration) * duration : Math.min(clock.time, duration);
    return Math.round(t * rate) / rate;
  };
  return useSyncExternalStore(
    (heard) => clock.subscribe(() => !clock.playing && heard()),
    read,
    () => 0,
  );
}

function LayerEditor({ layer, clip, clock, onEdit, onDuplicate, onRemove, onMove }: EditorProps) {
  const [naming, setNaming] = useState(false);
  const rate = clip.answer?.clip.rate ?? 30;
  const frames = clip.answer?.clip.frames ?? 1;
  const loop = clip.answer?.clip.loop ?? false;
  const duration = (loop ? frames : Math.max(1, frames - 1)) / rate;
  const time = useTimeAtRest(clock, rate, duration, loop);
  const here = new Float64Array(6);
  layerValue(layer, loop ? duration : null)(time, here);
  const keyed = layer.keys.findIndex((k) => Math.abs(k.at - time) < SAME_S);
  const turnsOnly = layer.target.startsWith('joint ') || layer.target === 'chest' || layer.target === 'look';
  /** Sets one of the six numbers at the playhead, in a key there. */
  const put = (k: number, value: number) =>
    onEdit(
      `${layer.name} at ${time.toFixed(2)} s`,
      (l) => {
        let key = l.keys.find((x) => Math.abs(x.at - time) < SAME_S);
        if (!key) {
          key = { at: time, move: [here[0]!, here[1]!, here[2]!], turn: [here[3]!, here[4]!, here[5]!] };
          l.keys.push(key);
          l.keys.sort((a, b) => a.at - b.at);
          key = l.keys.find((x) => Math.abs(x.at - time) < SAME_S)!;
        }
        if (k < 3) key.move[k] = value;
        else key.turn[k - 3] = value;
      },
      `layer ${layer.name} ${time} ${k}`,
    );
  const fade = layer.fade ?? { from: 0, to: duration, in: 0, out: 0 };
  const setFade = (name: keyof typeof fade, v: number) => onEdit(`fade of ${layer.name}`, (l) => void (l.fade = { ...fade, [name]: v }), `fade ${name}`);
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
          <MenuItem value="replacing" disabled={!turnsOnly}>
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
      <Typography variant="h3">At the playhead, {time.toFixed(2)} s</Typography>
      {!turnsOnly && (
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
        <Button disabled={keyed < 0} onClick={() => onEdit('take a key out', (l) => void l.keys.splice(keyed, 1))}>
          Take key out
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
              onChange={(_, on) =>
                onEdit(
                  on ? 'fade' : 'no fade',
                  (l) => void (l.fade = on ? { from: 0, to: duration, in: Math.min(0.2, duration / 2), out: Math.min(0.2, duration / 2) } : null),
                )
              }
            />
          }
          label="fades"
        />
      </Box>
      {layer.fade && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 0.5 }}>
          <Figures name="Counts from" label="from" unit="s" value={fade.from} range={[0, duration]} onChange={(v) => setFade('from', v)} />
          <Figures name="Comes within" label="in" unit="s" value={fade.in} range={[0, 60]} onChange={(v) => setFade('in', v)} />
          <Figures name="Counts to" label="to" unit="s" value={fade.to} range={[0, duration]} onChange={(v) => setFade('to', v)} />
          <Figures name="Goes within" label="out" unit="s" value={fade.out} range={[0, 60]} onChange={(v) => setFade('out', v)} />
        </Box>
      )}
    </Box>
  );
}
