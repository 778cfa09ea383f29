'use client';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Select from '@mui/material/Select';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef } from 'react';
import { directionName } from '@/core/directions/names';
import { EXPORT_FORMATS } from '@/core/formats/format';
import { HANDOVER_RATES, type HandoverSpec } from '@/core/handover/spec';
import { chosenIds, chosenMotions, isMember, offeredMembers, type Offered } from '@/core/project/chosen';
import type { ClipSpec } from '@/core/travel/clip-spec';
import { useDocumentStore } from '../document/context';
import { useOffered } from '../document/part';
import { useSole, useSpecs } from '../document/selectors';
import { editItem } from '../document/store';
import { useSession } from '../stage/session';
import { CarrierChoice } from './carrier-choice';
import { ChoiceList, Tick, type ChoiceGroup } from './choice-list';
import { FilesTable } from './files-table';
import { usePack } from './use-pack';

const AS_PLAYED = 'played';

/** The Hand-over station: which clips, how, and what was measured of the files as written. */
export function HandoverPanel() {
  const store = useDocumentStore();
  const { id, spec } = useSole('asset');
  const offered = useOffered();
  const clips = Object.entries(useSpecs('clip'));
  const ticked = clips.filter(([key]) => spec.clips.includes(key));
  const pack = usePack();
  const fps = useSession((s) => s.fps);
  const change = (label: string, recipe: (h: HandoverSpec) => void) => editItem<'asset'>(store, id, label, recipe);
  const groups = useGroups(offered, clips, id, spec);
  const motions = useMemo(() => chosenMotions(spec, offered), [spec, offered]);
  const ahead = offeredMembers(offered).filter((m) => spec.members.some(isMember(m))).length;
  // The cycle and the member ahead of the same gait are one motion, which is written once.
  const twice = ahead > motions.filter((m) => m.kind === 'member').length;
  const clipFiles = ticked.length * (spec.clipsOnBody ? spec.formats.length : 1);
  const files = motions.length * spec.formats.length + clipFiles;
  // Only a BVH has no place for contacts of its own.
  const bvh = spec.formats.includes('bvh') || (ticked.length > 0 && !spec.clipsOnBody);
  const start = () => pack.run({ motions, part: offered.part, handover: { ...spec, rate: spec.rate ?? fps }, clips: ticked.map(([, clip]) => clip) });
  const writing = useSession((s) => s.writing);
  const set = useSession((s) => s.set);
  const latest = useRef(start);
  useEffect(() => void (latest.current = start));
  useEffect(() => {
    if (!writing) return;
    set({ writing: false });
    latest.current();
  }, [writing, set]);
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Typography variant="h2">What to hand over</Typography>
      <ChoiceList groups={groups} />
      {clips.length > 0 && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <Typography>Clips on</Typography>
          <RadioGroup
            row
            value={spec.clipsOnBody ? 'body' : 'own'}
            aria-label="Clips go out on"
            onChange={(_, v) => change('what clips go out on', (h) => void (h.clipsOnBody = v === 'body'))}
          >
            <FormControlLabel value="own" control={<Radio size="small" sx={{ py: 0.25 }} />} label="their own skeletons" />
            <FormControlLabel value="body" control={<Radio size="small" sx={{ py: 0.25 }} />} label={offered.body.spec.name} />
          </RadioGroup>
        </Box>
      )}
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
        <Typography>Travel on</Typography>
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
      {pack.result && <FilesTable result={pack.result} gaitId={offered.gait} />}
    </Box>
  );
}

/** Everything the project has, as it can be chosen. */
function useGroups(offered: Offered, clips: readonly (readonly [string, ClipSpec])[], id: string, spec: HandoverSpec): ChoiceGroup[] {
  const store = useDocumentStore();
  const { part, gait, plan } = offered;
  const change = (recipe: (h: HandoverSpec) => void) => editItem<'asset'>(store, id, 'what is handed over', recipe);
  // What stands for the one in use is written out as soon as anything of its kind is chosen.
  const byId = (field: 'gaits' | 'walks' | 'clips', used: string, all: readonly string[]) => (keys: readonly string[], on: boolean) =>
    change((h) => {
      const now = new Set(chosenIds(h[field], used, all));
      for (const key of keys)
        if (on) now.add(key);
        else now.delete(key);
      h[field] = [...now];
    });
  const idRows = (chosen: readonly string[], used: string, items: Readonly<Record<string, { name: string }>>) => {
    const on = chosenIds(chosen, used, Object.keys(items));
    return Object.entries(items).map(([key, { name }]) => ({ key, name, on: on.includes(key) }));
  };
  const members = offeredMembers(offered).map(({ directionDeg, twin }) => ({ directionDeg, twin, key: `${directionDeg}${twin ? ' twin' : ''}` }));
  const setGait = part.gaits[part.sets[offered.set]!.gait]!;
  const all: ChoiceGroup[] = [
    { title: 'Cycles', all: 'all cycles', rows: idRows(spec.gaits, gait, part.gaits), choose: byId('gaits', gait, Object.keys(part.gaits)) },
    { title: 'Walks', all: 'all walks', rows: idRows(spec.walks, plan, part.plans), choose: byId('walks', plan, Object.keys(part.plans)) },
    {
      title: `Directions of ${setGait.name}`,
      all: 'all directions',
      rows: members.map((m) => ({ key: m.key, name: directionName(m.directionDeg, m.twin), on: spec.members.some(isMember(m)) })),
      choose: (keys, on) =>
        change((h) => {
          const meant = members.filter((m) => keys.includes(m.key));
          h.members = h.members.filter((m) => !meant.some(isMember(m)));
          if (on) h.members.push(...meant.map(({ directionDeg, twin }) => ({ directionDeg, twin })));
        }),
    },
    {
      title: 'Clips of Travel',
      all: 'all clips',
      rows: idRows(spec.clips, '', Object.fromEntries(clips)),
      choose: byId(
        'clips',
        '',
        clips.map(([key]) => key),
      ),
    },
  ];
  return all.filter((g) => g.rows.length > 0);
}
