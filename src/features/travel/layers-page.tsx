import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import type { Draft } from 'immer';
import { JOINT } from '@/core/body/roles';
import { ALL_TARGETS, newLayer, type Layer, type LayerKey, type LayerTarget } from '@/core/travel/layer-spec';
import { freeName } from '../library/actions';
import type { Clock } from '../stage/clock';
import { useSession } from '../stage/session';
import { rowSx } from '../steps/cells';
import { useClipChange } from './editing';
import { LayerEditor } from './layer-editor';
import { jointOf } from './layer-keys';
import type { ClipOnStage } from './use-clip';

/** A target as a person reads it. */
const targetWords = (target: LayerTarget): string =>
  target
    .replace(/^joint /, 'turn of ')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();

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
  // Its plumb hangs on the figure while its page is open.
  const joint = layer ? JOINT[jointOf(layer)] : null;
  useEffect(() => set({ plumb: joint, layer: at }), [set, joint, at]);
  useEffect(() => () => set({ plumb: null }), [set]);
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
