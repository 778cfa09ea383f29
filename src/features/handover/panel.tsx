'use client';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Select from '@mui/material/Select';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { directionName } from '@/core/directions/names';
import { setMembers } from '@/core/directions/set';
import { EXPORT_FORMATS } from '@/core/formats/format';
import { HANDOVER_RATES, type HandoverSpec } from '@/core/handover/spec';
import { useDocument, useDocumentStore } from '../document/context';
import { gaitIdOf, useBody, useGait, useGaitFor, usePlan, useSet, useSole, useSpecs } from '../document/selectors';
import { editItem } from '../document/store';
import { useSession } from '../stage/session';
import { CarrierChoice } from './carrier-choice';
import { FilesTable } from './files-table';
import { usePackRequest } from './pack-request';
import { usePack } from './use-pack';

const AS_PLAYED = 'played';

/** The Hand-over station: which clips, how, and what was measured of the files as written. */
export function HandoverPanel() {
  const store = useDocumentStore();
  const { id, spec } = useSole('asset');
  const plan = usePlan();
  const set = useSet();
  const body = useBody();
  const gaitId = useDocument(gaitIdOf);
  const gait = useGait(gaitId);
  const setGaitId = useGaitFor(set.gait);
  const setGait = useGait(setGaitId);
  const directions = useMemo(() => setMembers({ ...set, twins: false }, setGait).map((m) => m.directionDeg), [set, setGait]);
  const clips = Object.entries(useSpecs('clip'));
  const ticked = clips.filter(([key]) => spec.clips.includes(key));
  const pack = usePack();
  const fps = useSession((s) => s.fps);
  const change = (label: string, recipe: (h: HandoverSpec) => void) => editItem<'asset'>(store, id, label, recipe);
  const wanted = directions.filter((d) => spec.directions.includes(d));
  // The cycle and the member ahead of the same gait are one motion, which is written once.
  const twice = spec.cycle && wanted.includes(0) && setGaitId === gaitId;
  const made = (spec.cycle ? 1 : 0) + (spec.plan ? 1 : 0) + wanted.length - (twice ? 1 : 0);
  const clipFiles = ticked.length * (spec.clipsOnBody ? spec.formats.length : 1);
  const files = made * spec.formats.length + clipFiles;
  // Only a BVH has no place for contacts of its own.
  const bvh = spec.formats.includes('bvh') || (ticked.length > 0 && !spec.clipsOnBody);
  const request = usePackRequest();
  const start = () =>
    pack.run(
      request(
        { ...spec, rate: spec.rate ?? fps, directions: wanted },
        ticked.map(([, clip]) => clip),
      ),
    );
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Typography variant="h2">Clips</Typography>
      <Box>
        <Tick label={`Cycle: ${gait.name}`} checked={spec.cycle} onChange={(on) => change('cycle', (h) => void (h.cycle = on))} />
        <Tick label={`Walk: ${plan.name}`} checked={spec.plan} onChange={(on) => change('plan', (h) => void (h.plan = on))} />
        <Typography sx={{ mt: 0.5 }}>Directions of {setGait.name}</Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, 1fr)', pl: 1 }}>
          {directions.map((d) => (
            <Tick
              key={d}
              label={directionName(d)}
              checked={spec.directions.includes(d)}
              onChange={(on) => change('directions', (h) => void (h.directions = on ? [...h.directions, d] : h.directions.filter((x) => x !== d)))}
            />
          ))}
        </Box>
        {clips.length > 0 && (
          <>
            <Typography sx={{ mt: 0.5 }}>Clips of Travel</Typography>
            <Box sx={{ pl: 1 }}>
              {clips.map(([key, clip]) => (
                <Box key={key}>
                  <Tick
                    label={clip.name}
                    checked={spec.clips.includes(key)}
                    onChange={(on) => change('clips', (h) => void (h.clips = on ? [...h.clips, key] : h.clips.filter((x) => x !== key)))}
                  />
                </Box>
              ))}
              <RadioGroup
                row
                value={spec.clipsOnBody ? 'body' : 'own'}
                aria-label="Clips go out on"
                onChange={(_, v) => change('what clips go out on', (h) => void (h.clipsOnBody = v === 'body'))}
              >
                <FormControlLabel value="own" control={<Radio size="small" sx={{ py: 0.25 }} />} label="their own skeletons" />
                <FormControlLabel value="body" control={<Radio size="small" sx={{ py: 0.25 }} />} label={body.spec.name} />
              </RadioGroup>
            </Box>
          </>
        )}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '90px 1fr', alignItems: 'center', gap: 1 }}>
        <Typography>Frame rate</Typography>
        <Select
          value={spec.rate ?? AS_PLAYED}
          inputProps={{ 'aria-label': 'Frame rate' }}
          onChange={(e) => change('rate', (h) => void (h.rate = e.target.value === AS_PLAYED ? null : Number(e.target.value)))}
        >
          <MenuItem value={AS_PLAYED}>as played, {fps} a second</MenuItem>
          {HANDOVER_RATES.map((r) => (
            <MenuItem key={r} value={r}>
              {r} frames a second
            </MenuItem>
          ))}
        </Select>
        <Typography>Travel</Typography>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={spec.inPlace}
          aria-label="Travel"
          onChange={(_, v: boolean | null) => v !== null && change('travel', (h) => void (h.inPlace = v))}
        >
          <ToggleButton value={false}>travelling</ToggleButton>
          <ToggleButton value={true}>in place</ToggleButton>
        </ToggleButtonGroup>
        <Typography>carried by</Typography>
        <CarrierChoice
          value={spec.carrier ?? 'usual'}
          disabled={spec.inPlace}
          onChange={(to) => change('who carries the travel', (h) => void (h.carrier = to === 'usual' ? null : to))}
        />
        <Typography>Formats</Typography>
        <Box>
          {EXPORT_FORMATS.map((f) => (
            <Tick
              key={f.id}
              label={f.label}
              checked={spec.formats.includes(f.id)}
              onChange={(on) => change('formats', (h) => void (h.formats = on ? [...h.formats, f.id] : h.formats.filter((x) => x !== f.id)))}
            />
          ))}
          <Tick
            label="contacts beside BVH"
            title="Writes NAME.contacts.json beside each BVH: when each foot is on the ground, what it turns about, and how its floor moves"
            disabled={!bvh}
            checked={spec.contacts}
            onChange={(on) => change('contacts files', (h) => void (h.contacts = on))}
          />
        </Box>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Button variant="contained" disabled={files === 0 || pack.running} onClick={start} sx={{ flexShrink: 0 }}>
          Write {files === 1 ? 'one file' : `${files} files`}
        </Button>
        {pack.running && <Button onClick={pack.cancel}>Cancel</Button>}
        {twice && !pack.running && (
          <Typography sx={{ color: 'text.secondary', fontSize: 12.5 }}>The cycle and “ahead” are one motion: it is written once.</Typography>
        )}
        {files === 0 && <Typography sx={{ color: 'text.secondary' }}>Choose at least one clip and one format.</Typography>}
      </Box>
      {pack.running && (
        <Box role="status">
          <LinearProgress
            aria-label="Writing files"
            variant="determinate"
            value={pack.progress ? (100 * pack.progress.done) / Math.max(1, pack.progress.total) : 0}
          />
          <Typography noWrap sx={{ fontSize: 12.5, color: 'text.secondary' }}>
            {pack.progress?.name ?? 'starting'}
          </Typography>
        </Box>
      )}
      {pack.error && <Alert severity="error">{pack.error}</Alert>}
      {pack.result && <FilesTable result={pack.result} gaitId={gaitId} />}
    </Box>
  );
}

interface TickProps {
  label: string;
  checked: boolean;
  onChange: (on: boolean) => void;
  title?: string;
  disabled?: boolean;
}

function Tick({ label, checked, onChange, title, disabled = false }: TickProps) {
  return (
    <FormControlLabel
      label={label}
      title={title}
      disabled={disabled}
      control={<Checkbox size="small" checked={checked} onChange={(_, on) => onChange(on)} sx={{ py: 0.25 }} />}
    />
  );
}
