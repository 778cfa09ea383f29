'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { fitGait } from '@/core/gait/fit';
import { PRESETS } from '@/core/gait/presets';
import { cadence, froude, wholeFrames } from '@/core/gait/timing';
import { idsOf, specOf, useDocument, useDocumentStore } from '../document/context';
import { bodyIdOf, gaitIdOf, useBody, useGait } from '../document/selectors';
import { FootfallDial } from '../dial/dial';
import type { Clock } from '../stage/clock';
import { useSession } from '../stage/session';
import { chooseBody, chooseGait, replaceGait, setParameter } from './editing';
import { ParameterGroups } from './groups';
import { TimingStrips } from './timing-strips';

/** Froude number near which people change from walk to run. Source: Alexander; Kram, Domingo & Ferris 1997. */
const WALK_RUN_FROUDE = 0.5;

/** The Cycle station: body and gait, the dial, and a strip for every parameter. */
export function CyclePanel({ clock, duration }: { clock: Clock; duration: number }) {
  const store = useDocumentStore();
  const gaitId = useDocument(gaitIdOf);
  const gait = useGait(gaitId);
  return (
    <Box>
      <WhoAndWhat gaitId={gaitId} />
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1 }}>
        <FootfallDial
          gait={gait}
          clock={clock}
          duration={duration}
          onPhase={(limb, phase, mark) => setParameter(store, gaitId, 'timing', limb, null, phase, mark)}
          onDuty={(duty, mark) => setParameter(store, gaitId, 'timing', 'dutyFactor', null, duty, mark)}
        />
        <Readings gaitId={gaitId} />
      </Box>
      <TimingStrips gaitId={gaitId} />
      <ParameterGroups gaitId={gaitId} />
    </Box>
  );
}

function WhoAndWhat({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const state = useDocument((s) => s);
  const body = useBody();
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
      <Select aria-label="Body" value={bodyIdOf(state)} onChange={(e) => chooseBody(store, e.target.value)} inputProps={{ 'aria-label': 'Body' }}>
        {idsOf(state, 'body').map((id) => {
          const b = specOf(state, 'body', id);
          return (
            <MenuItem key={id} value={id}>
              {b.name}, {b.stature.toFixed(2)} m
            </MenuItem>
          );
        })}
      </Select>
      <Select value={gaitId} onChange={(e) => chooseGait(store, e.target.value)} inputProps={{ 'aria-label': 'Gait' }}>
        {idsOf(state, 'gait').map((id) => (
          <MenuItem key={id} value={id}>
            {specOf(state, 'gait', id).name}
          </MenuItem>
        ))}
      </Select>
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography component="span" sx={{ color: 'text.secondary' }}>
          Start again from
        </Typography>
        {PRESETS.map((p) => (
          <Button key={p.key} variant="outlined" title={p.about} onClick={() => replaceGait(store, gaitId, fitGait(p.make(), body.legLength))}>
            {p.make().name}
          </Button>
        ))}
      </Box>
    </Box>
  );
}

/** The numbers that follow from the timing, as in a tide table. */
function Readings({ gaitId }: { gaitId: string }) {
  const gait = useGait(gaitId);
  const fps = useSession((s) => s.fps);
  const { timing } = gait;
  const fr = froude(timing.speed, gait.legLength);
  const frames = wholeFrames(timing, fps);
  const support =
    timing.dutyFactor >= 0.5
      ? ['double support', `${((timing.dutyFactor - 0.5) * 200).toFixed(0)} %`]
      : ['in flight', `${((0.5 - timing.dutyFactor) * 200).toFixed(0)} %`];
  const rows: [string, string, string][] = [
    ['cadence', `${cadence(timing.strideTime).toFixed(0)} /min`, 'Steps a minute'],
    ['a step', `${((timing.strideTime * fps) / 2).toFixed(1)} fr`, `Frames a step at ${fps} a second; a loop of whole frames has ${frames.frames}`],
    [support[0]!, support[1]!, 'Part of the stride'],
    ['Froude', fr.toFixed(2), fr > WALK_RUN_FROUDE ? 'v² / (g × leg). People run above about 0.5.' : 'v² / (g × leg). People walk below about 0.5.'],
    ['stride / leg', (timing.strideLength / gait.legLength).toFixed(2), 'Stride length in leg lengths'],
  ];
  return (
    <Box component="dl" sx={{ m: 0, flex: 1, minWidth: 0 }}>
      {rows.map(([name, value, title]) => (
        <Box key={name} title={title} sx={{ display: 'flex', justifyContent: 'space-between', borderBottom: '1px solid', borderColor: 'divider', py: 0.4 }}>
          <Typography component="dt" noWrap sx={{ color: 'text.secondary', fontSize: 12.5 }}>
            {name}
          </Typography>
          <Typography component="dd" noWrap sx={{ m: 0, fontSize: 15, fontWeight: 600 }}>
            {value}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
