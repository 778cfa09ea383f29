import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Tooltip from '@mui/material/Tooltip';
import { parameterAt } from '@/core/gait/access';
import { PARAMETERS } from '@/core/gait/parameters';
import { HELD } from '@/core/gait/spec';
import { cadence, follower } from '@/core/gait/timing';
import { ChannelStrip } from '../channel/strip';
import { useDocumentStore } from '../document/context';
import { useGait } from '../document/selectors';
import type { Clock } from '../stage/clock';
import { useSession } from '../stage/session';
import { setHeld, setTimingValue } from './editing';
import { useDefaults } from './defaults';
import { ParameterStrips } from './groups';

/** Stride length, speed and stride time (one held, one follows), cadence and frames a step, and the time on the ground. */
export function TimingStrips({ gaitId, clock, duration }: { gaitId: string; clock: Clock; duration: number }) {
  const store = useDocumentStore();
  const gait = useGait(gaitId);
  const defaults = useDefaults(gait);
  const fps = useSession((s) => s.fps);
  const { strideTime } = gait.timing;
  const [shortest, longest] = PARAMETERS.timing.strideTime.range;
  return (
    <Box sx={{ mt: 1 }}>
      {HELD.map((key) => {
        const p = PARAMETERS.timing[key];
        const free = follower(key, gait.held);
        return (
          <ChannelStrip
            key={key}
            path={`timing.${key}`}
            label={p.label}
            tooltip={`${p.tooltip} Changing it moves ${PARAMETERS.timing[free].label.toLowerCase()}.`}
            unit={p.unit}
            range={sensible(key, p.range, gait.legLength)}
            value={gait.timing[key]}
            fallback={defaults.timing[key]}
            lead={<Hold name={p.label} held={gait.held === key} onHold={() => setHeld(store, gaitId, key)} />}
            onChange={(v, mark) => setTimingValue(store, gaitId, key, v, mark)}
          />
        );
      })}
      <ChannelStrip
        path="timing.cadence"
        label="Cadence"
        tooltip="Steps a minute; sets the stride time."
        unit="count"
        range={[Math.ceil(120 / longest), Math.floor(120 / shortest)]}
        value={cadence(strideTime)}
        fallback={cadence(defaults.timing.strideTime)}
        onChange={(v, mark) => setTimingValue(store, gaitId, 'strideTime', 120 / v, mark)}
      />
      <ChannelStrip
        path="timing.framesPerStep"
        label="Frames a step"
        tooltip={`Pictures from one contact to the next at ${fps} a second; sets the stride time.`}
        unit="frames"
        range={[Math.ceil((shortest * fps) / 2), Math.floor((longest * fps) / 2)]}
        value={(strideTime * fps) / 2}
        fallback={(defaults.timing.strideTime * fps) / 2}
        onChange={(v, mark) => setTimingValue(store, gaitId, 'strideTime', (2 * v) / fps, mark)}
      />
      <ParameterStrips entry={parameterAt('timing.dutyFactor')!} gaitId={gaitId} gait={gait} defaults={defaults} clock={clock} duration={duration} />
    </Box>
  );
}

/** Slider ends that fit the body; the whole range of the table is far wider than any one body can use. */
function sensible(key: (typeof HELD)[number], range: readonly [number, number], leg: number): readonly [number, number] {
  const root = Math.sqrt(leg);
  if (key === 'strideLength') return [-2 * leg, Math.min(range[1], 4.4 * leg)];
  if (key === 'speed') return [-2.4 * root, Math.min(range[1], 8.5 * root)];
  return [range[0], Math.min(range[1], 3.3 * root)];
}

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
        <svg width="13" height="13" viewBox="0 0 14 14" fill="none" stroke="currentColor" strokeWidth={held ? 1.9 : 1.3} aria-hidden>
          <circle cx="7" cy="2.6" r="1.5" />
          <path d="M7 4.2V13M1.6 8.2c.4 3 2.6 4.7 5.4 4.7s5-1.7 5.4-4.7M4.4 6.2h5.2" />
        </svg>
      </ButtonBase>
    </Tooltip>
  );
}
