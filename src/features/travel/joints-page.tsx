import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import { JOINT, ROLES, type Role } from '@/core/body/roles';
import { UPS, type Up } from '@/core/clip/in-world';
import { idsOf, specOf, useDocumentStore } from '../document/context';
import { edit } from '../document/store';
import { useSession } from '../stage/session';
import { Figures } from '../steps/cells';
import { useClipChange } from './editing';
import type { ClipOnStage } from './use-clip';
import type { ClipSpec } from '@/core/travel/clip-spec';

const NO_ROLE = 'none';
const GUESSED = 'guessed';
const roleWords = (role: string): string => role.replace(/([A-Z])/g, ' $1').toLowerCase();

/** Whose joint is which, the unit, and which way is up: what was guessed in pencil, what was said in ink. */
export function JointsPage({ clip }: { clip: ClipOnStage }) {
  const change = useClipChange(clip.id);
  const store = useDocumentStore();
  const { answer } = clip;
  const { said, file } = clip.spec;
  const names = answer?.clip.skeleton.names ?? [];
  const set = useSession((s) => s.set);
  const at = useSession((s) => s.jointAt);
  const skin = useSession((s) => s.clipSkin);
  const rows = useRef<HTMLDivElement>(null);
  useEffect(() => {
    set({ jointsShown: true });
    return () => set({ jointsShown: false, jointAt: null });
  }, [set]);
  // What was pointed at on the figure is brought into sight here.
  useEffect(() => {
    if (at !== null) rows.current?.querySelector(`[data-joint="${at}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const roleOf = new Map<number, Role>();
  if (answer) for (const role of ROLES) if (answer.figure.roles[JOINT[role]]! >= 0) roleOf.set(answer.figure.roles[JOINT[role]]!, role);
  const inInk = new Set(Object.values(said.roles));
  const give = (joint: number, role: string) =>
    change(`role of ${names[joint]}`, (c) => {
      const before = roleOf.get(joint);
      if (before) c.said.roles[before] = -1;
      if (role !== NO_ROLE) c.said.roles[role as Role] = joint;
    });
  const others = idsOf(store.getState(), 'clip').filter((id) => id !== clip.id && specOf(store.getState(), 'clip', id).file.skeleton === file.skeleton);
  const sayOfAll = () =>
    edit(store, 'the same for all clips of this skeleton', (specs) => {
      for (const id of others) (specs[id] as ClipSpec).said = { ...said, roles: { ...said.roles } };
    });
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {answer?.doubts.map((words) => (
        <Alert key={words} severity="info" sx={{ py: 0 }}>
          {words}
        </Alert>
      ))}
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', alignItems: 'center', columnGap: 1, rowGap: 0.5 }}>
        <Typography>Metres a unit</Typography>
        <Box sx={{ display: 'flex' }}>
          <Figures
            name="Metres a unit"
            label=""
            digits={5}
            step={0.001}
            value={said.unit ?? answer?.unit ?? 1}
            range={[1e-6, 1000]}
            onChange={(v) => change('unit', (c) => void (c.said.unit = v), 'unit')}
          />
          <Button disabled={said.unit === null} onClick={() => change('unit as guessed', (c) => void (c.said.unit = null))}>
            As guessed
          </Button>
        </Box>
        <Typography>Up is</Typography>
        <Select
          value={said.up ?? GUESSED}
          inputProps={{ 'aria-label': 'Up is' }}
          onChange={(e) => change('up', (c) => void (c.said.up = e.target.value === GUESSED ? null : (e.target.value as Up)))}
        >
          <MenuItem value={GUESSED}>{answer ? `${answer.up}, as guessed` : 'as guessed'}</MenuItem>
          {UPS.map((up) => (
            <MenuItem key={up} value={up}>
              {up}
            </MenuItem>
          ))}
        </Select>
        <Typography>Turned by</Typography>
        <Figures
          name="Turned by"
          label=""
          unit="°"
          digits={1}
          step={5}
          value={said.heading}
          range={[-360, 360]}
          onChange={(v) => change('turned by', (c) => void (c.said.heading = v), 'heading')}
        />
      </Box>
      {clip.own && clip.own.skins.length > 0 && (
        <FormControlLabel
          control={<Switch size="small" checked={skin} onChange={(_, on) => set({ clipSkin: on })} />}
          label="shown in its own skin"
          title="Otherwise as plain limbs of its own proportions"
        />
      )}
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant="h3">Joints and their roles</Typography>
        <Button disabled={Object.keys(said.roles).length === 0} onClick={() => change('roles as guessed', (c) => void (c.said.roles = {}))}>
          As guessed
        </Button>
      </Box>
      {others.length > 0 && (
        <Button variant="outlined" onClick={sayOfAll}>
          The same for the other {others.length === 1 ? 'clip' : `${others.length} clips`} of this skeleton
        </Button>
      )}
      <Box data-testid="joints" ref={rows} sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 170px', alignItems: 'center' }}>
        {names.map((name, joint) => {
          const role = roleOf.get(joint);
          const pencil = role !== undefined && !inInk.has(joint);
          return (
            <Box key={joint} sx={{ display: 'contents' }} onPointerEnter={() => set({ jointAt: joint })} onFocus={() => set({ jointAt: joint })}>
              <Typography
                noWrap
                data-joint={joint}
                title={name}
                aria-current={joint === at}
                sx={{
                  fontSize: 13,
                  fontWeight: joint === at ? 600 : 400,
                  borderLeft: 3,
                  borderColor: joint === at ? 'primary.main' : 'transparent',
                  pl: Math.min(8, depthOf(answer!.clip.skeleton.parents, joint)) * 0.75,
                }}
              >
                {name || `joint ${joint + 1}, no name`}
              </Typography>
              <Select
                value={role ?? NO_ROLE}
                variant="standard"
                inputProps={{ 'aria-label': `Role of ${name || `joint ${joint + 1}`}` }}
                onChange={(e) => give(joint, e.target.value)}
                sx={{
                  fontSize: 13,
                  fontStyle: pencil ? 'italic' : 'normal',
                  color: role === undefined ? 'text.disabled' : pencil ? 'text.secondary' : 'text.primary',
                }}
              >
                <MenuItem value={NO_ROLE}>–</MenuItem>
                {ROLES.map((r) => (
                  <MenuItem key={r} value={r}>
                    {roleWords(r)}
                    {answer?.unsure.includes(r) && r === role ? ' ?' : ''}
                  </MenuItem>
                ))}
              </Select>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

function depthOf(parents: Int32Array, joint: number): number {
  let depth = 0;
  for (let j = parents[joint]!; j >= 0; j = parents[j]!) depth++;
  return depth;
}
