import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import type { Role } from '@/core/body/roles';
import { fitGait } from '@/core/gait/fit';
import { Cancelled } from '@/workers/client';
import { useDocument, useDocumentStore, idsOf } from '../document/context';
import { useBody } from '../document/selectors';
import { addGait, freeName } from '../library/actions';
import { useEngine } from '../stage/measure';
import { useSession, type Session } from '../stage/session';
import { Facts } from './facts';
import type { ClipOnStage } from './use-clip';

const LANE = 'take-gait';

/** Joints of the table: of the middle, and of both sides. */
const MIDDLE: readonly (readonly [Role, string])[] = [
  ['hips', 'hips'],
  ['upperChest', 'chest'],
  ['head', 'head'],
];
const SIDES: readonly (readonly [string, string])[] = [
  ['UpperLeg', 'thigh'],
  ['LowerLeg', 'shank'],
  ['Foot', 'foot'],
  ['Toes', 'toes'],
  ['Shoulder', 'shoulder'],
  ['UpperArm', 'upper arm'],
  ['LowerArm', 'forearm'],
  ['Hand', 'hand'],
];

/** Takes the gait of a clip: fits one of ours to its strides, tells how well, and adds it to the project's gaits. */
export function GaitPage({ clip }: { clip: ClipOnStage }) {
  const engine = useEngine();
  const set = useSession((s) => s.set);
  const kept = useSession((s) => s.taken);
  const taken = kept?.clip === clip.id ? kept : null;
  const [share, setShare] = useState<number | null>(null);
  const [error, setError] = useState<string | null>(null);
  useEffect(() => () => engine.cancel(LANE), [engine, clip.id]);
  const take = () => {
    setError(null);
    setShare(0);
    const { spec, id } = clip;
    engine
      .call(LANE, 'takeGait', { spec }, ({ done, total }) => setShare(done / total))
      .then(
        (fit) => {
          setShare(null);
          set({ taken: { clip: id, of: spec, fit, over: true } });
        },
        (e: unknown) => {
          setShare(null);
          if (!(e instanceof Cancelled)) setError(e instanceof Error ? e.message : String(e));
        },
      );
  };
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Typography sx={{ fontSize: 13.5 }}>
        A gait is fitted to the strides of this clip that go farthest; a trim or a loop on the page cut chooses others. It is then edited like any gait, and any
        body walks it anywhere.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Button variant={taken ? 'outlined' : 'contained'} disabled={!clip.answer || share !== null} onClick={take}>
          Fit a gait
        </Button>
        {share !== null && <Button onClick={() => engine.cancel(LANE)}>Cancel</Button>}
      </Box>
      {share !== null && (
        <Box role="status">
          <LinearProgress aria-label="Fitting a gait" variant="determinate" value={share * 100} />
          <Typography sx={{ fontSize: 12.5, color: 'text.secondary' }}>fitting, {Math.round(share * 100)} %</Typography>
        </Box>
      )}
      {error && <Alert severity="warning">No gait can be fitted: {error}.</Alert>}
      {taken && <Taken taken={taken} changed={taken.of !== clip.spec} />}
    </Box>
  );
}

function Taken({ taken, changed }: { taken: NonNullable<Session['taken']>; changed: boolean }) {
  const store = useDocumentStore();
  const body = useBody();
  const set = useSession((s) => s.set);
  const names = useDocument((s) =>
    idsOf(s, 'gait')
      .map((id) => s.specs[id]!.name)
      .join('\n'),
  );
  const { gait, off, bent, strides, stands, strideTime, strideLength } = taken.fit;
  const add = () => {
    const name = freeName(gait.name, names.split('\n'));
    addGait(store, fitGait({ ...gait, name }, body.legLength));
    set({ notice: { text: `${name} is a gait of this project now: edit it at Cycle, walk it at Steps`, undo: true } });
  };
  return (
    <Box data-testid="taken-gait" sx={{ display: 'grid', gap: 1 }}>
      <Button variant="contained" onClick={add} sx={{ justifySelf: 'start' }}>
        Add to the gaits
      </Button>
      <Facts
        facts={[
          [
            'Strides',
            strides
              .map((s) => `${s.from.toFixed(2)}–${s.to.toFixed(2)} s`)
              .slice(0, 3)
              .join(', ') + (strides.length > 3 ? `, ${strides.length - 3} more` : ''),
          ],
          ['Stride', `${strideLength.toFixed(3)} m, ${strideTime.toFixed(3)} s`],
          ['Speed', `${(strideLength / strideTime).toFixed(3)} m/s`],
          ['Stands, left and right', `${(stands[0] * 100).toFixed(0)} %, ${(stands[1] * 100).toFixed(0)} %`],
        ]}
      />
      <Typography variant="h3">How well it fits</Typography>
      <Facts
        facts={[
          ['Hips are bent', `${bent.hip.toFixed(1)}° off`],
          ['Knees', `${bent.knee.toFixed(1)}° off`],
          ['Ankles', `${bent.ankle.toFixed(1)}° off`],
        ]}
      />
      <Box
        component="table"
        aria-label="Joints, degrees off"
        sx={{
          borderCollapse: 'collapse',
          fontSize: 13,
          '& th': { fontWeight: 400, textAlign: 'left', color: 'text.secondary' },
          '& td, & thead th + th': { textAlign: 'right' },
          '& tr': { borderBottom: 1, borderColor: 'divider' },
        }}
      >
        <caption style={{ captionSide: 'top', textAlign: 'left', fontSize: 12.5 }}>Turned about any axis, degrees off (root mean square)</caption>
        <thead>
          <tr>
            <th scope="col">joint</th>
            <th scope="col">left</th>
            <th scope="col">right</th>
          </tr>
        </thead>
        <tbody>
          {MIDDLE.map(([role, word]) => (
            <tr key={role}>
              <th scope="row">{word}</th>
              <td colSpan={2}>{off[role]?.toFixed(1)}</td>
            </tr>
          ))}
          {SIDES.map(([part, word]) => (
            <tr key={part}>
              <th scope="row">{word}</th>
              <td>{off[`left${part}` as Role]?.toFixed(1)}</td>
              <td>{off[`right${part}` as Role]?.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      <FormControlLabel
        control={<Switch size="small" checked={taken.over} onChange={(_, over) => set({ taken: { ...taken, over } })} />}
        label="laid over the clip"
        title="The gait on the clip’s own body, laid over the first of those strides"
      />
      {changed && <Alert severity="info">The clip was changed since. Fit it again to see what that does.</Alert>}
    </Box>
  );
}
