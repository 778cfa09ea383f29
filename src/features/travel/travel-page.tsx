import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { toDegrees } from '@/core/math/scalar';
import { matchedDistance } from '@/core/travel/matched';
import { AXES, TRAVEL_KINDS, type TravelKind } from '@/core/travel/names';
import type { ClipAnswer } from '@/workers/protocol';
import { useSession } from '../stage/session';
import { Figures } from '../steps/cells';
import { BesideSection } from './beside-section';
import { useClipChange } from './editing';
import { Facts } from './facts';
import { worstSlide } from '@/core/travel/slide';
import type { ClipOnStage } from './use-clip';

const SLIDES = 'A standing foot slides, at most';

const KIND_WORDS: Readonly<Record<TravelKind, readonly [label: string, about: string]>> = {
  asIs: ['as it is', 'The body goes where the file has it.'],
  contacts: ['from contacts', 'The body moves against the foot that stands, from frame to frame; evenly through flight.'],
  constant: ['one constant velocity', 'The one velocity with which standing feet move least.'],
  smoothed: ['smoothed', 'From contacts, without what is quicker than the frequency beside it.'],
  none: ['none, in place', 'The travel is taken out; the pose stays.'],
};

/** What travel a clip has, measured and as it is given, axis by axis, with the slide it means. */
export function TravelPage({ clip }: { clip: ClipOnStage }) {
  const change = useClipChange(clip.id);
  const { travel } = clip.spec;
  const { answer } = clip;
  const slide = answer ? worstSlide(answer.before) : null;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {answer && (
        <Facts
          testId="travel-facts"
          strong={SLIDES}
          facts={[
            [answer.inPlace ? 'Distance its feet ask for' : 'Distance', `${answer.facts.distance.toFixed(3)} m`],
            ['Displacement', `${answer.facts.displacement.toFixed(3)} m`],
            ['Speed', `${answer.facts.speed.toFixed(3)} m/s`],
            ['Direction against its facing', `${signed(toDegrees(answer.facts.direction), 1)}°`],
            ['Turns', `${signed(toDegrees(answer.facts.turn), 1)}°`],
            [SLIDES, slide === null ? '–' : `${slide.toFixed(1)} mm`],
          ]}
        />
      )}
      {answer?.inPlace && travel.kind === 'asIs' && (
        <Alert severity="info" sx={{ py: 0 }}>
          It walks in place. Take its travel from its contacts, or one constant velocity.
        </Alert>
      )}
      <Typography variant="h3">Travel</Typography>
      <RadioGroup
        value={travel.kind}
        aria-label="Travel"
        onChange={(_, kind) => change(`travel ${KIND_WORDS[kind as TravelKind][0]}`, (c) => void (c.travel.kind = kind as TravelKind))}
      >
        {TRAVEL_KINDS.map((kind) => (
          <Box key={kind} sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
            <FormControlLabel
              value={kind}
              control={<Radio size="small" sx={{ py: 0.25 }} />}
              label={KIND_WORDS[kind][0]}
              title={KIND_WORDS[kind][1]}
              sx={{ '& .MuiFormControlLabel-label': { fontSize: 13.5 } }}
            />
            {kind === 'smoothed' && travel.kind === 'smoothed' && (
              <Figures
                name="Smoothed up to"
                label=""
                unit="Hz"
                digits={2}
                step={0.1}
                value={travel.smoothHz}
                range={[0.05, 20]}
                onChange={(v) => change('smoothed up to', (c) => void (c.travel.smoothHz = v), 'smoothHz')}
              />
            )}
          </Box>
        ))}
      </RadioGroup>
      <Box
        sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}
        title="Typed, the distance is stretched to it; what that makes a standing foot slide is told above."
      >
        <Figures
          name="Distance"
          label="distance"
          digits={3}
          step={0.01}
          value={travel.distance ?? answer?.facts.distance ?? 0}
          range={[-10_000, 10_000]}
          onChange={(v) => change('distance', (c) => void (c.travel.distance = v), 'distance')}
        />
        <Button disabled={travel.distance === null} onClick={() => change('distance as found', (c) => void (c.travel.distance = null))}>
          As found
        </Button>
      </Box>
      {answer && <MatchedDistance answer={answer} />}
      <Typography variant="h3">Axes kept</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        {AXES.map((axis) => (
          <FormControlLabel
            key={axis}
            label={axis}
            control={
              <Checkbox
                size="small"
                disabled={travel.kind === 'none'}
                checked={travel.kind !== 'none' && travel.axes[axis]}
                onChange={(_, on) => change(`${axis} ${on ? 'kept' : 'taken out'}`, (c) => void (c.travel.axes[axis] = on))}
                sx={{ py: 0.25 }}
              />
            }
            sx={{ '& .MuiFormControlLabel-label': { fontSize: 13.5 } }}
          />
        ))}
      </Box>
      {answer && Math.abs(answer.kept.distance - answer.facts.distance) > 5e-4 && (
        <Typography sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          Kept: {answer.kept.distance.toFixed(3)} m, {signed(toDegrees(answer.kept.turn), 1)}°.
        </Typography>
      )}
      <TreadmillAxes />
      <BesideSection clip={clip} />
    </Box>
  );
}

/** The way that belongs to so many cycles, at the speed the feet have. */
function MatchedDistance({ answer }: { answer: ClipAnswer }) {
  const [cycles, setCycles] = useState(1);
  const matched = matchedDistance(answer.clip, answer.held, answer.facts, cycles);
  if (!matched) return null;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }} title="The distance at which feet hold, over so many strides of the left foot">
      <Figures name="Cycles" label="cycles" unit="×" digits={0} step={1} value={cycles} range={[1, 1000]} onChange={(v) => setCycles(Math.round(v))} />
      <Typography data-testid="matched" sx={{ fontSize: 13.5 }}>
        take {matched.way.toFixed(3)} m, {matched.seconds.toFixed(2)} s
      </Typography>
    </Box>
  );
}

const HELD_WAYS = ['forward', 'sideways', 'height'] as const;

/** In which ways the treadmill holds the figure in view; a faint trace shows where it really is. */
function TreadmillAxes() {
  const held = useSession((s) => s.held);
  const treadmill = useSession((s) => s.treadmill);
  const set = useSession((s) => s.set);
  return (
    <Box>
      <Typography variant="h3">Treadmill holds</Typography>
      {HELD_WAYS.map((way) => (
        <FormControlLabel
          key={way}
          label={way}
          title={treadmill ? 'A faint trace shows where the figure really is' : 'Counts while the treadmill runs'}
          control={
            <Checkbox
              size="small"
              checked={held[way]}
              slotProps={{ input: { 'aria-label': `held in view: ${way}` } }}
              onChange={(_, on) => set({ held: { ...held, [way]: on }, treadmill: true })}
              sx={{ py: 0.25 }}
            />
          }
          sx={{ '& .MuiFormControlLabel-label': { fontSize: 13.5 } }}
        />
      ))}
    </Box>
  );
}

const signed = (v: number, digits: number): string => v.toFixed(digits).replace('-', '−');
