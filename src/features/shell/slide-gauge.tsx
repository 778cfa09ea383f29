'use client';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import Popover from '@mui/material/Popover';
import Typography from '@mui/material/Typography';
import { memo, useEffect, useMemo, useState } from 'react';
import type { Clock } from '../stage/clock';
import { MeasuresLink } from './measures-link';
import { gaugeSx, Reading } from './reading';
import { useWorkerAnswer } from '../stage/measure';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { useTimes } from '../stage/times';
import type { Jolts } from '@/workers/protocol';

/** Rate at which the gauge measures; what lies between frames is measured at four times that. */
const GAUGE_RATE = 60;
/** Slide at frames (mm) up to which a foot counts as held. */
const HELD_MM = 0.05;
/** Notes, and contacts, that are listed at most: of these the worst. */
const LISTED = 60;

/** The measured slide of the current motion, always on screen; opens the contacts, worst first, and jumps to one. */
export const SlideGauge = memo(function SlideGauge({ motion, clock }: { motion: StageMotion; clock: Clock }) {
  const { spec, part } = motion;
  const played = useSession((s) => s.fps);
  const times = useTimes();
  const request = useMemo(() => ({ spec, part, rate: GAUGE_RATE, played }), [spec, part, played]);
  const { answer, stale, error } = useWorkerAnswer('measure', request, !motion.settled);
  const set = useSession((s) => s.set);
  useEffect(() => {
    if (!answer || stale) return;
    const each = answer.report.slides.map((s) => ({
      left: s.contact.foot === 'left',
      from: s.contact.from / GAUGE_RATE,
      to: s.contact.to / GAUGE_RATE,
      mm: s.atFramesMm,
    }));
    set({ slides: { part, each } });
  }, [answer, stale, part, set]);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const report = answer?.report;
  const faults = answer?.notes.filter((n) => n.kind === 'fault') ?? [];
  const rounded = answer?.notes.find((n) => n.kind === 'rounding') ?? null;
  const slide = report?.slideMm.atFrames ?? null;
  const cannot = faults.some((n) => n.cannot);
  const held = slide !== null && slide <= HELD_MM && !cannot;
  const worst = [...(report?.slides ?? [])].sort((a, b) => b.betweenMm - a.betweenMm).slice(0, LISTED);
  const words = error ? 'not measured' : slide === null ? 'measuring' : held ? 'feet hold' : slide <= HELD_MM ? 'no foot ever stands' : 'feet slide';
  return (
    <>
      <ButtonBase
        data-testid="slide-gauge"
        title="Slide of the planted feet; opens the contacts"
        aria-haspopup="dialog"
        aria-busy={stale}
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={gaugeSx(slide, held, stale)}
      >
        <Reading mm={slide} held={held} words={faults.length > 0 ? `${words} · ` : words} />
        {faults.length > 0 && (
          <Typography component="span" sx={{ fontSize: 12, fontWeight: 700, color: 'error.main', ml: -0.5 }}>
            {faults.length === 1 ? 'one note' : `${faults.length} notes`}
          </Typography>
        )}
      </ButtonBase>
      {anchor && (
        <Popover
          open
          anchorEl={anchor}
          onClose={() => setAnchor(null)}
          anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
          transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        >
          <Box sx={{ p: 1.5, width: 400 }}>
            {faults.slice(0, LISTED).map((n) => (
              <Alert
                key={n.words}
                severity="warning"
                data-note="fault"
                sx={{ mb: 0.5, py: 0 }}
                action={n.at !== undefined && <Button onClick={() => clock.set(n.at!)}>show</Button>}
              >
                {n.words}
              </Alert>
            ))}
            {faults.length > LISTED && <Typography sx={{ fontSize: 12.5, mb: 1 }}>{faults.length - LISTED} more are told by the command line.</Typography>}
            <Typography variant="h3">Contacts, worst first</Typography>
            {error && <Typography color="error">{error}</Typography>}
            <List component="div" dense disablePadding>
              {worst.map((s, i) => (
                <ListItemButton
                  key={i}
                  onClick={() => clock.set(s.worstFrame / GAUGE_RATE)}
                  sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, whiteSpace: 'nowrap' }}
                >
                  <span>
                    {s.contact.foot === 'left' ? 'L left' : 'R right'}, {times.words(s.contact.from / GAUGE_RATE)}
                  </span>
                  <span>{s.atFramesMm.toFixed(3)} mm at frames</span>
                  <span>{s.betweenMm.toFixed(2)} between</span>
                </ListItemButton>
              ))}
            </List>
            {answer && <JoltTable jolts={answer.jolts} />}
            {report && (
              <Typography sx={{ fontSize: 12.5, color: 'text.secondary', mt: 1 }}>
                Sink {report.sinkMm.toFixed(2)} mm. Longest leg {(report.stretch * 100).toFixed(1)} % of its length. Between frames: at {GAUGE_RATE} a second,
                as files interpolate.
              </Typography>
            )}
            <MeasuresLink />
            {rounded && (
              <Typography data-note="rounding" sx={{ fontSize: 12.5, mt: 0.5, color: 'text.secondary' }}>
                ≈ {rounded.words} That is no fault.
              </Typography>
            )}
          </Box>
        </Popover>
      )}
    </>
  );
});

/** How hard knees and hips are moved, beside what looks smooth. */
function JoltTable({ jolts: { knee, kneeBar, hips, hipsBar } }: { jolts: Jolts }) {
  const hundreds = (v: number) => (Math.round(v / 100) * 100).toLocaleString('en');
  const signed = (v: number) => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(1)}`;
  const rows = [
    { part: 'Knees', is: `${hundreds(knee)} °/s²`, bar: `${hundreds(kneeBar)} look smooth`, smooth: knee <= kneeBar },
    {
      part: 'Hips',
      is: `${signed(hips[0])} … ${signed(hips[1])} m/s²`,
      bar: `${signed(hipsBar[0])} … ${signed(hipsBar[1])}`,
      smooth: hips[0] >= hipsBar[0] && hips[1] <= hipsBar[1],
    },
  ];
  return (
    <Box sx={{ mt: 1 }} data-testid="jolts">
      <Typography variant="h3">Knees and hips, hardest moment</Typography>
      {rows.map(({ part, is, bar, smooth }) => (
        <Box key={part} sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, px: 2, py: 0.25, fontSize: 13 }}>
          <span>{part}</span>
          <Box component="span" sx={{ color: smooth ? 'success.main' : 'error.main' }}>
            {is}
          </Box>
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {bar}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
