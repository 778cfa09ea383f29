import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { memo, useEffect, useId, useState } from 'react';
import { buildGround } from '@/core/ground/build';
import { courseOfWay, facingAtEnd } from '@/core/course/way-course';
import { own } from '@/core/math/own';
import { toRadians } from '@/core/math/scalar';
import { bodyRooms } from '@/core/project/motion-spec';
import { Cancelled } from '@/workers/client';
import { specOf, useDocumentStore } from '../document/context';
import { planIdOf } from '../document/selectors';
import { useEngine } from '../stage/measure';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { Figures } from './cells';
import { useWalkChange } from './editing';

/** Room (statures) a walking body needs to either side, and the longest step (legs) a way may ask for. */
const ROOM = 0.17;
const REACH = 1.3;

/** Looks for a way from the first knot of the course to the last, round what stands there, and makes a course of it. */
export const WayFinder = memo(function WayFinder({ motion: now }: { motion: () => StageMotion }) {
  const store = useDocumentStore();
  const change = useWalkChange();
  const engine = useEngine();
  const lane = useId();
  const set = useSession((s) => s.set);
  const [state, setState] = useState<
    { readonly kind: 'idle' } | { readonly kind: 'looking'; readonly done: number } | { readonly kind: 'said'; readonly words: string; readonly bad: boolean }
  >({ kind: 'idle' });
  useEffect(() => () => engine.cancel(lane), [engine, lane]);
  useEffect(() => () => set({ searched: null }), [set]);
  const [facing, setFacing] = useState<number | null>(null);
  const look = () => {
    const motion = now();
    const plan = specOf(store.getState(), 'plan', planIdOf(store.getState()));
    const { knots } = plan.course;
    const [a, second, b] = [knots[0]!, knots[1]!, knots[knots.length - 1]!];
    const radius = ROOM * motion.body.spec.stature;
    const bodies = bodyRooms(motion.part, plan.ground);
    setState({ kind: 'looking', done: 0 });
    engine
      .call(
        lane,
        'way',
        {
          ground: plan.ground,
          bodies,
          from: { x: a.x, z: a.z, heading: Math.atan2(second.x - a.x, second.z - a.z) },
          to: { x: b.x, z: b.z, heading: facing === null ? null : toRadians(facing) },
          radius,
          step: Math.min(0.9, Math.abs(motion.gait.timing.strideLength) / 2),
          reach: REACH * motion.body.legLength,
        },
        (p) => setState({ kind: 'looking', done: p.done }),
      )
      .then(
        (found) => {
          set({ searched: found.searched });
          if (found.kind === 'none')
            return setState({
              kind: 'said',
              words: `No course was found: ${found.reason}, at ${found.at.z.toFixed(1)} m ahead, ${found.at.x.toFixed(1)} m to the left.`,
              bad: true,
            });
          const course = courseOfWay(
            found.points,
            buildGround(plan.ground, (id) => own(bodies, id) ?? null),
            radius,
          );
          change('find a course', (p) => void (p.course = facing === null ? course : facingAtEnd(course, toRadians(facing))));
          setState({
            kind: 'said',
            words: `A course of ${found.cost.toFixed(1)} m was found, at most ${Math.round((found.bound - 1) * 100)} % longer than the shortest. It is a course like any other.`,
            bad: false,
          });
        },
        (error: unknown) =>
          setState(error instanceof Cancelled ? { kind: 'idle' } : { kind: 'said', words: error instanceof Error ? error.message : String(error), bad: true }),
      );
  };
  return (
    <Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        {state.kind === 'looking' ? (
          <>
            <Typography sx={{ flex: 1 }} role="status">
              Looking for a course, {state.done} %
            </Typography>
            <Button onClick={() => engine.cancel(lane)}>Stop</Button>
          </>
        ) : (
          <Button
            variant="outlined"
            onClick={look}
            title="From the first knot to the last, round obstacles and bystanders, over no gap that cannot be stepped."
          >
            Find a course round obstacles
          </Button>
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <FormControlLabel
          control={<Switch size="small" checked={facing !== null} onChange={(_, on) => setFacing(on ? 0 : null)} />}
          label="Facing there"
          title="How the figure is to stand at the end; without, it comes as it comes. 0 is ahead (+Z), left is positive."
        />
        {facing !== null && <Figures name="Facing at the end" label="" unit="°" digits={0} step={5} value={facing} range={[-180, 180]} onChange={setFacing} />}
      </Box>
      {state.kind === 'said' && (
        <Typography role="status" sx={{ fontSize: 13, color: state.bad ? 'error.main' : 'text.secondary' }}>
          {state.words}
        </Typography>
      )}
    </Box>
  );
});
