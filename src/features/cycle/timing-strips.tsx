import AnchorIcon from '@mui/icons-material/Anchor';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { memo, useState } from 'react';
import { parameterAt } from '@/core/gait/access';
import { PARAMETERS, type Range } from '@/core/gait/parameters';
import { HELD, type Held } from '@/core/gait/spec';
import { cadence, follower, reachableTiming } from '@/core/gait/timing';
import { ChannelStrip } from '../channel/strip';
import { useDocumentStore } from '../document/context';
import { useGaitWatching } from '../document/selectors';
import type { Clock } from '../stage/clock';
import { useSession } from '../stage/session';
import { setHeld, setTimingValue } from './editing';
import { defaultsOf, presetKeyOf } from './defaults';
import { FrameOffers } from './frame-offers';
import { ParameterStrips } from './parameter-strips';

/** Stride length, speed and stride time (one held, one follows), cadence and frames a step, and the time on the ground. */
export const TimingStrips = memo(function TimingStrips({ gaitId, clock, duration }: { gaitId: string; clock: Clock; duration: number }) {
  const store = useDocumentStore();
  const gait = useGaitWatching(gaitId, (g) => [HELD.map((k) => g.timing[k]), g.held, g.legLength, presetKeyOf(g)]);
  const defaults = defaultsOf(gait);
  const fps = useSession((s) => s.fps);
  // The row a person is about to change.
  const [at, setAt] = useState<Held | null>(null);
  const { strideTime } = gait.timing;
  const time = reachableTiming(gait, 'strideTime');
  const [shortest, longest] = time.range;
  const setTime = (value: number, mark: string | null) => setTimingValue(store, gaitId, 'strideTime', value, mark);
  const follows = at === null ? null : follower(at, gait.held);
  return (
    <Box sx={{ mt: 1 }}>
      {HELD.map((key) => {
        const p = PARAMETERS.timing[key];
        const free = follower(key, gait.held);
        const reach = reachableTiming(gait, key).range;
        return (
          <Box key={key} onPointerEnter={() => setAt(key)} onPointerLeave={() => setAt(null)} onFocus={() => setAt(key)} onBlur={() => setAt(null)}>
            <ChannelStrip
              path={`timing.${key}`}
              label={p.label}
              tooltip={`${p.tooltip} Changing it moves ${PARAMETERS.timing[free].label.toLowerCase()}.`}
              unit={p.unit}
              step={p.step}
              range={p.range}
              slides={sensible(key, reach, gait.legLength)}
              value={gait.timing[key]}
              fallback={defaults.timing[key]}
              lead={<Hold name={p.label} held={gait.held === key} onHold={() => setHeld(store, gaitId, key)} />}
              note={follows === key ? <Follows /> : null}
              onChange={(v, mark) => setTimingValue(store, gaitId, key, v, mark)}
            />
          </Box>
        );
      })}
      <Box onPointerEnter={() => setAt('strideTime')} onPointerLeave={() => setAt(null)} onFocus={() => setAt('strideTime')} onBlur={() => setAt(null)}>
        <ChannelStrip
          path="timing.cadence"
          label="Cadence"
          tooltip="Steps a minute; sets the stride time."
          unit="count"
          step={1}
          range={[Math.ceil(120 / longest), Math.floor(120 / shortest)]}
          value={cadence(strideTime)}
          fallback={cadence(defaults.timing.strideTime)}
          onChange={(v, mark) => setTime(120 / v, mark)}
        />
        <ChannelStrip
          path="timing.framesPerStep"
          label="Frames a step"
          tooltip={`Frames from one contact to the next at ${fps} a second; sets the stride time.`}
          unit="frames"
          step={0.5}
          range={[Math.ceil((shortest * fps) / 2), Math.floor((longest * fps) / 2)]}
          value={(strideTime * fps) / 2}
          fallback={(defaults.timing.strideTime * fps) / 2}
          onChange={(v, mark) => setTime((2 * v) / fps, mark)}
        />
      </Box>
      <FrameOffers gaitId={gaitId} />
      <ParameterStrips entry={parameterAt('timing.dutyFactor')!} gaitId={gaitId} clock={clock} duration={duration} />
    </Box>
  );
});

/** Slider ends that fit the body within what can be reached; the whole range is far wider than any one body can use. */
function sensible(key: Held, [low, high]: Range, leg: number): Range {
  const root = Math.sqrt(leg);
  const [least, most] = key === 'strideLength' ? [-2 * leg, 4.4 * leg] : key === 'speed' ? [-2.4 * root, 8.5 * root] : [0, 3.3 * root];
  return [Math.max(low, Math.min(least, high)), Math.min(high, Math.max(most, low))];
}

/** Says which value will move with the one that is about to be changed. */
const Follows = () => (
  <Typography component="span" sx={{ fontSize: 11, fontStyle: 'italic', color: 'primary.main' }}>
    follows
  </Typography>
);

/** A small anchor: the value it stands at stays when another of the three is changed. */
function Hold({ name, held, onHold }: { name: string; held: boolean; onHold: () => void }) {
  return (
    <Tooltip title={held ? `${name} is held: it stays when the others are changed` : `Hold ${name.toLowerCase()}`}>
      <ButtonBase
        aria-label={`Hold ${name}`}
        aria-pressed={held}
        onClick={onHold}
        sx={{ width: 18, height: 18, color: held ? 'primary.main' : 'text.secondary', opacity: held ? 1 : 0.45 }}
      >
        <AnchorIcon sx={{ fontSize: 15 }} />
      </ButtonBase>
    </Tooltip>
  );
}
