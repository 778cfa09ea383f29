import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import ListItemButton from '@mui/material/ListItemButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useState } from 'react';
import { noEdits, type EditSpec } from '@/core/travel/spec';
import type { Clock } from '../stage/clock';
import { useWorkerAnswer } from '../stage/measure';
import { useSession } from '../stage/session';
import { useTimes } from '../stage/times';
import { Figures } from '../steps/cells';
import { useClipChange } from './editing';
import { RepairSection } from './repair-section';
import type { ClipOnStage } from './use-clip';

const HOLD_WORDS = ['on ones', 'on twos', 'on threes', 'on fours'];
/** Span (s) over which the seam of a loop just cut is closed. */
const SPAN_S = 0.25;

/** What of the file is kept and how it runs: trimmed, cut to a loop, mirrored, turned round, retimed, repeated, held. */
export function CutPage({ clip, clock }: { clip: ClipOnStage; clock: Clock }) {
  const times = useTimes();
  const change = useClipChange(clip.id);
  const { edits } = clip.spec;
  const { answer } = clip;
  const rate = answer?.clip.rate ?? 1;
  const edit = (label: string, to: Partial<EditSpec>, mark: string | null = null) =>
    change(
      label,
      (c) => {
        c.edits = { ...c.edits, ...to };
        // Contacts set by hand were of other pictures.
        if ('trim' in to || 'loop' in to || 'mirror' in to || 'reverse' in to || 'speed' in to) c.travel.contacts = null;
      },
      mark,
    );
  const whole = answer?.wholeFrames ?? 1;
  const trim = edits.trim ?? { from: 0, to: whole - 1 };
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {edits.loop === null ? (
        answer && (
          <LoopFinder
            clip={clip}
            clock={clock}
            onCut={(from, to) => {
              edit('cut a loop', { loop: { from, to, span: SPAN_S } });
              clock.set(0);
            }}
          />
        )
      ) : (
        <Box>
          <Typography variant="h3">Loop</Typography>
          <Typography sx={{ fontSize: 13.5 }}>
            {times.words((edits.loop.to - edits.loop.from) / rate)}, cut at {times.words(edits.loop.from / rate)} of the file.
          </Typography>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Figures
              name="Span over which the seam is closed"
              label="span"
              unit="s"
              value={edits.loop.span}
              range={[0, 5]}
              onChange={(span) => edit('span of the seam', { loop: { ...edits.loop!, span } }, 'span')}
            />
            <Figures
              name="Rounds written"
              label="rounds"
              unit="×"
              digits={0}
              step={1}
              value={edits.repeat}
              range={[1, 200]}
              onChange={(v) => edit('rounds', { repeat: Math.round(v) }, 'repeat')}
            />
          </Box>
          <Button onClick={() => edit('the whole clip again', { loop: null, repeat: 1 })}>The whole clip again</Button>
        </Box>
      )}
      {edits.loop === null && (
        <>
          <Typography variant="h3">Trim</Typography>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Figures
              name="First frame"
              label="from"
              unit=""
              digits={0}
              step={1}
              value={trim.from + 1}
              range={[1, trim.to + 1]}
              onChange={(v) => edit('first frame', { trim: { ...trim, from: Math.round(v) - 1 } }, 'trim')}
            />
            <Figures
              name="Last frame"
              label="to"
              unit=""
              digits={0}
              step={1}
              value={trim.to + 1}
              range={[trim.from + 1, whole]}
              onChange={(v) => edit('last frame', { trim: { ...trim, to: Math.round(v) - 1 } }, 'trim')}
            />
            <Button disabled={edits.trim === null} onClick={() => edit('all frames', { trim: null })}>
              All
            </Button>
          </Box>
        </>
      )}
      <Typography variant="h3">How it runs</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 1.5 }}>
        <FormControlLabel
          control={<Switch size="small" checked={edits.mirror} onChange={(_, on) => edit(on ? 'mirror' : 'not mirrored', { mirror: on })} />}
          label="mirrored"
        />
        <FormControlLabel
          control={<Switch size="small" checked={edits.reverse} onChange={(_, on) => edit(on ? 'reverse' : 'forward', { reverse: on })} />}
          label="reversed"
        />
        <Figures
          name="Times as fast"
          label="speed"
          unit="×"
          value={edits.speed}
          range={[0.05, 20]}
          onChange={(v) => edit('times as fast', { speed: v }, 'speed')}
        />
        <Select
          value={edits.hold}
          inputProps={{ 'aria-label': 'Frames held' }}
          onChange={(e) => edit(HOLD_WORDS[e.target.value - 1]!, { hold: e.target.value })}
        >
          {HOLD_WORDS.map((words, i) => (
            <MenuItem key={words} value={i + 1}>
              {words}
            </MenuItem>
          ))}
        </Select>
      </Box>
      <RepairSection clip={clip} />
      <Button disabled={JSON.stringify(edits) === JSON.stringify(noEdits())} onClick={() => edit('as it came', noEdits())} sx={{ justifySelf: 'start' }}>
        As it came
      </Button>
    </Box>
  );
}

/** Loops of the whole clip, the best first; each is marked on the chart while it is pointed at. */
function LoopFinder({ clip, clock, onCut }: { clip: ClipOnStage; clock: Clock; onCut: (from: number, to: number) => void }) {
  const times = useTimes();
  const set = useSession((s) => s.set);
  const at = useSession((s) => s.loopAt);
  const { spec } = clip;
  const rate = clip.answer?.clip.rate ?? 1;
  const request = useMemo(() => ({ spec: { ...spec, edits: noEdits() } }), [spec]);
  const { answer: found, error } = useWorkerAnswer('loops', request);
  const [poor, setPoor] = useState(false);
  const answer = useMemo(() => found && found.filter((l) => poor || !l.poor), [found, poor]);
  const hidden = found ? found.filter((l) => l.poor).length : 0;
  useEffect(() => {
    set({ loops: answer });
    return () => set({ loops: null, loopAt: null });
  }, [answer, set]);
  return (
    <Box>
      <Typography variant="h3">Loops in it</Typography>
      {error && <Alert severity="error">{error}</Alert>}
      {!answer && !error && <Typography sx={{ fontSize: 13 }}>looking…</Typography>}
      {answer?.length === 0 && (
        <Typography sx={{ fontSize: 13 }}>
          {hidden > 0 ? 'No stretch comes back near to where it began.' : 'No stretch comes back to where it began with a landing of each foot.'}
        </Typography>
      )}
      <Box data-testid="loops">
        {answer?.map(({ from, to, seam, landings, closing, poor: isPoor }, i) => (
          <ListItemButton
            key={`${from}-${to}`}
            selected={at === i}
            onClick={() => {
              set({ loopAt: i });
              clock.set(from / rate);
            }}
            sx={{ py: 0, px: 0.75, display: 'flex', gap: 1, justifyContent: 'space-between', fontSize: 13, whiteSpace: 'nowrap' }}
          >
            <span>
              {times.words(from / rate)}, {times.words((to - from) / rate)} long
            </span>
            <span>
              L {landings[0]} R {landings[1]}
            </span>
            <span>
              seam {(seam * 1000).toFixed(1)} mm{isPoor && `, closing moves ${(closing * 1000).toFixed(0)}`}
            </span>
            <Button
              size="small"
              sx={{ minWidth: 0, py: 0 }}
              onClick={(e) => {
                e.stopPropagation();
                onCut(from, to);
              }}
            >
              Cut
            </Button>
          </ListItemButton>
        ))}
      </Box>
      {hidden > 0 && (
        <Button size="small" onClick={() => setPoor(!poor)}>
          {poor ? 'Good ones only' : hidden === 1 ? 'Show a poor one' : `Show ${hidden} poor ones`}
        </Button>
      )}
    </Box>
  );
}
