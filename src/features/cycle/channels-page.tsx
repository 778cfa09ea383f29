import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import useMediaQuery from '@mui/material/useMediaQuery';
import { memo, useRef, useState } from 'react';
import { isSplit, parameterAt } from '@/core/gait/access';
import { patternOf, PHASE_PATTERNS, type PhasePattern } from '@/core/gait/patterns';
import { keyMoments, type KeyMoment } from '@/core/measure/key-moments';
import { standingShare } from '@/core/measure/landings';
import { CurveHost } from '../channel/curve-host';
import { FootfallDial } from '../dial/dial';
import { useDocumentStore } from '../document/context';
import { gaitNow, useGait, useGaitWatching } from '../document/selectors';
import { useAfterPaint } from '../stage/after-paint';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSessionStore } from '../stage/session';
import { replaceGait, setParameter, setPhases, setSplit } from './editing';
import { ParameterGroups } from './groups';
import { moveMoment } from './moments';
import { changePattern } from './pattern-memory';
import { Readings } from './readings';
import { TimingStrips } from './timing-strips';

const DUTY = parameterAt('timing.dutyFactor')!;
const NO_MOMENTS: readonly KeyMoment[] = [];

/** The dial, the timing and a strip for every parameter; each follows what it shows of the gait. */
export const ChannelsPage = memo(function ChannelsPage({ gaitId, clock, motion }: { gaitId: string; clock: Clock; motion: StageMotion }) {
  const [host, setHost] = useState<HTMLElement | null>(null);
  const low = useMediaQuery('(max-height: 719px)');
  return (
    <CurveHost value={low ? null : host}>
      <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, flex: 1 }}>
        {/* A curve that is drawn takes the place of the dial: all of it is seen, and nothing lies under it. */}
        <Box
          ref={setHost}
          sx={{ mt: 1, borderBottom: '1.5px solid', borderColor: 'text.primary', '&:empty': { display: 'none' }, '&:not(:empty) + *': { display: 'none' } }}
        />
        <Box>
          <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1 }}>
            <GaitDial gaitId={gaitId} clock={clock} motion={motion} />
            <Readings gaitId={gaitId} />
          </Box>
          <LimbTurns gaitId={gaitId} />
        </Box>
        <TimingStrips gaitId={gaitId} clock={clock} duration={motion.duration} />
        {/* The dial and the timing stay in sight while the strips scroll, wherever there is height for both. */}
        <Box
          tabIndex={0}
          role="region"
          aria-label="Values"
          sx={{ flex: 1, minHeight: 150, overflowY: 'auto', mx: -1.5, px: 1.5, '@media (max-height: 719px)': { overflowY: 'visible', flex: 'none' } }}
        >
          <ParameterGroups gaitId={gaitId} clock={clock} duration={motion.duration} />
        </Box>
      </Box>
    </CurveHost>
  );
});

/** The dial of a gait, with the moments of its motion. */
function GaitDial({ gaitId, clock, motion }: { gaitId: string; clock: Clock; motion: StageMotion }) {
  const store = useDocumentStore();
  const gait = useGait(gaitId);
  const moments = useAfterPaint(motion.source, keyMoments) ?? NO_MOMENTS;
  const latest = useRef({ gait, moments, body: motion.body });
  latest.current = { gait, moments, body: motion.body };
  const takeMoment = (moment: KeyMoment) => {
    const { gait: from, moments: all, body } = latest.current;
    const thrown = standingShare(motion.source, 0) > 0;
    if (thrown && (moment.name === 'down' || moment.name === 'up')) return null;
    return (phase: number, mark: string) => replaceGait(store, gaitId, moveMoment(from, body, all, moment, phase), `move ${moment.name}`, mark);
  };
  return (
    <FootfallDial
      gait={gait}
      clock={clock}
      duration={motion.duration}
      moments={moments}
      onPhases={(phases, mark) => setPhases(store, gaitId, phases, mark)}
      onDuty={(side, value, mark) => setParameter(store, gaitId, DUTY, null, value, mark, side)}
      onMoment={takeMoment}
    />
  );
}

/** In which pattern the limbs take turns, and whether both feet have one time on the ground. */
const LimbTurns = memo(function LimbTurns({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const gait = useGaitWatching(gaitId, (g) => [patternOf(g)?.key, isSplit(g, DUTY.path)]);
  const current = patternOf(gait);
  const split = isSplit(gait, DUTY.path);
  const session = useSessionStore();
  const takeTurns = (pattern: PhasePattern) => {
    const { turns } = session.getState();
    const changed = changePattern(gaitNow(store.getState(), gaitId), pattern, turns[gaitId]);
    session.setState({ turns: { ...turns, [gaitId]: changed.remembered } });
    replaceGait(store, gaitId, changed.gait, `limbs ${pattern.label}`);
  };
  return (
    <Box role="group" aria-label="How the limbs take turns" sx={{ display: 'flex', alignItems: 'center', gap: 0.5, mt: 1 }}>
      <Typography component="span" sx={{ color: 'text.secondary', mr: 0.5 }}>
        Limbs
      </Typography>
      {PHASE_PATTERNS.map((p) => (
        <Button
          key={p.key}
          title={p.about}
          aria-pressed={current === p}
          variant={current === p ? 'contained' : 'outlined'}
          onClick={() => takeTurns(p)}
          sx={{ minWidth: 0, px: 1, py: 0.1 }}
        >
          {p.label}
        </Button>
      ))}
      <Button
        sx={{ ml: 'auto', minWidth: 0, px: 1, py: 0.1 }}
        title="Gives both feet their own time on the ground, or one for both again"
        onClick={() => setSplit(store, gaitId, DUTY, !split)}
      >
        {split ? 'join feet' : 'split feet'}
      </Button>
    </Box>
  );
});
