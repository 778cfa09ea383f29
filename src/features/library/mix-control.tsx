import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Slider from '@mui/material/Slider';
import { useMemo, useState } from 'react';
import { fitGait } from '@/core/gait/fit';
import { mixGaits } from '@/core/gait/mix';
import { findPreset, PRESETS } from '@/core/gait/presets';
import type { GaitSpec } from '@/core/gait/spec';
import { NumberField } from '../channel/number-field';
import { useBaseline } from '../cycle/baseline';
import { specOf, useDocument } from '../document/context';
import { useGait, useNames } from '../document/selectors';

/** How far past both gaits a mix may go. */
const BEYOND = 0.25;

/** The gait on its way to any other gait of the project or that ships. */
export function MixControl({ gaitId }: { gaitId: string }) {
  const gait = useGait(gaitId);
  const gaits = useNames('gait');
  const [partner, setPartner] = useState('');
  const partnerSpec = useDocument((s) => (s.meta[partner]?.kind === 'gait' && s.specs[partner] !== undefined ? specOf(s, 'gait', partner) : null));
  const { legLength } = gait;
  const other = useMemo<GaitSpec | null>(() => {
    const spec = findPreset(partner)?.make() ?? partnerSpec;
    return spec && fitGait(spec, legLength);
  }, [partner, partnerSpec, legLength]);
  const control = useBaseline(gaitId, gait, 0);
  const move = (u: number) => other && control.apply(u, `mix with ${other.name}`, (base) => mixGaits(base, other, u));
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mt: 0.5 }}>
      <Select
        value={partner}
        displayEmpty
        inputProps={{ 'aria-label': 'Mixed with' }}
        onChange={(e) => setPartner(e.target.value)}
        sx={{ width: 150, flexShrink: 0 }}
      >
        <MenuItem value="">
          <em>choose a gait</em>
        </MenuItem>
        {gaits
          .filter(([id]) => id !== gaitId)
          .map(([id, name]) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        {PRESETS.map((p) => (
          <MenuItem key={p.key} value={p.key}>
            {p.name}
          </MenuItem>
        ))}
      </Select>
      <Slider
        size="small"
        aria-label="Share of the other gait"
        disabled={!other}
        min={-BEYOND * 100}
        max={(1 + BEYOND) * 100}
        step={1}
        value={control.value * 100}
        onChange={(_, v) => move((v as number) / 100)}
      />
      <NumberField
        label="Share of the other gait, percent"
        value={control.value * 100}
        digits={0}
        step={5}
        min={-BEYOND * 100}
        max={(1 + BEYOND) * 100}
        onChange={(v) => move(v / 100)}
      />
    </Box>
  );
}
