'use client';
import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { defaultSet, STEPPINGS, WAIST_RANGE, type SetSpec } from '@/core/directions/spec';
import { directionName } from '@/core/directions/names';
import { setMembers } from '@/core/directions/set';
import { ChannelStrip } from '../channel/strip';
import { useDocumentStore } from '../document/context';
import { useBody, useGait, useGaitFor, useSole } from '../document/selectors';
import { editItem } from '../document/store';
import { GaitChoice } from '../library/gait-choice';
import { useWorkerAnswer } from '../stage/measure';
import { useSession, useSessionStore } from '../stage/session';
import { Rose } from './rose';

const STEPPING_LABELS = { turned: 'turned hips', side: 'side steps, hips square' } as const;

/** The Directions station: the set on its rose and in a table with measured slide. */
export function DirectionsPanel() {
  const store = useDocumentStore();
  const { id, spec: set } = useSole('set');
  const gaitId = useGaitFor(set.gait);
  const gait = useGait(gaitId);
  const body = useBody();
  const members = useMemo(() => setMembers(set, gait), [set, gait]);
  const chosen = Math.min(
    useSession((s) => s.member),
    members.length - 1,
  );
  const session = useSessionStore();
  const choose = (member: number) => session.setState({ member });
  const played = useSession((s) => s.fps);
  const request = useMemo(
    () => ({ set: 'set', part: { body: body.spec, gaits: { gait }, plans: {}, sets: { set: { ...set, gait: 'gait' } } }, rate: 60, played }),
    [body, gait, set, played],
  );
  const { answer, stale, error } = useWorkerAnswer('set', request);
  const change = (label: string, recipe: (s: SetSpec) => void, mark: string | null = null) => editItem<'set'>(store, id, label, recipe, mark);
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1, alignItems: 'center' }}>
        <GaitChoice label="Gait of the set" value={gaitId} onChoose={(g) => change('gait', (s) => void (s.gait = g))} />
        <FormControlLabel
          label="Twins"
          title="Also make the members with the hips turned the other way"
          control={<Switch size="small" checked={set.twins} onChange={(_, on) => change('twins', (s) => void (s.twins = on))} />}
        />
      </Box>
      <ChannelStrip
        path="set.sideShare"
        label="Sideways stride"
        tooltip="Length of a sideways stride as a part of the forward one; diagonals lie between."
        unit="share"
        range={[0.2, 1]}
        value={set.sideShare}
        fallback={0.8}
        onChange={(v, mark) => change('side share', (s) => void (s.sideShare = v), mark)}
      />
      <ChannelStrip
        path="set.waist"
        label="Waist"
        tooltip="How far the hips twist against the chest at most; past it the chest turns with the hips."
        unit="rad"
        range={WAIST_RANGE}
        value={set.waist}
        fallback={defaultSet().waist}
        onChange={(v, mark) => change('waist', (s) => void (s.waist = v), mark)}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '128px 1fr', alignItems: 'center', gap: 1 }}>
        <Typography>Sideways with</Typography>
        <Select
          value={set.stepping}
          inputProps={{ 'aria-label': 'How sideways members step' }}
          onChange={(e) => change('stepping', (s) => void (s.stepping = e.target.value))}
        >
          {STEPPINGS.map((s) => (
            <MenuItem key={s} value={s}>
              {STEPPING_LABELS[s]}
            </MenuItem>
          ))}
        </Select>
      </Box>
      <Rose members={members} chosen={chosen} onChoose={choose} />
      <Box
        sx={{ maxHeight: 260, overflow: 'auto', borderTop: stale ? '1.5px dashed' : '1.5px solid', borderColor: 'text.primary' }}
        tabIndex={0}
        role="region"
        aria-label="Members of the set"
        aria-busy={stale}
      >
        <Table size="small" stickyHeader data-testid="set-table">
          <TableHead>
            <TableRow>
              {['Direction', 'Speed m/s', 'Per cycle m', 'Slide mm', 'Between'].map((h) => (
                <TableCell key={h} align={h === 'Direction' ? 'left' : 'right'} sx={{ whiteSpace: 'nowrap', px: 0.75 }}>
                  {h}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {members.map((m, i) => {
              const measured = answer?.members[i];
              return (
                <TableRow
                  key={`${m.directionDeg}${m.twin}`}
                  hover
                  selected={i === chosen}
                  onClick={() => choose(i)}
                  sx={{ cursor: 'pointer' }}
                  title={measured?.notes.map((n) => n.words).join(' ')}
                >
                  <TableCell sx={{ whiteSpace: 'nowrap', px: 0.75 }}>{directionName(m.directionDeg, m.twin)}</TableCell>
                  <TableCell align="right">{(measured?.speed ?? m.gait.timing.speed).toFixed(3)}</TableCell>
                  <TableCell align="right">{(measured?.travel ?? m.gait.timing.strideLength).toFixed(3)}</TableCell>
                  <TableCell align="right">{measured ? measured.slideMm.toFixed(2) : '…'}</TableCell>
                  <TableCell align="right">{measured ? measured.betweenMm.toFixed(2) : '…'}</TableCell>
                </TableRow>
              );
            })}
          </TableBody>
        </Table>
      </Box>
      <Typography role="status" sx={{ color: error ? 'error.main' : 'text.secondary', fontSize: 12.5 }}>
        {error ?? 'Measured at 60 frames a second. All members share one stride time and land left first; opposite members travel equal distances.'}
      </Typography>
    </Box>
  );
}
