import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import { froude, walkRunSpeed, wholeFrames } from '@/core/gait/timing';
import { sidedGait } from '@/core/gait/sides';
import { SIDES } from '@/core/body/roles';
import { contactPhases, supportShare } from '@/core/gait/contact-phases';
import { useGaitWatching } from '../document/selectors';
import { useSession } from '../stage/session';

/** Froude number near which people change from walk to run, and the band around it. Source: Alexander; Kram, Domingo & Ferris 1997. */
const WALK_RUN_FROUDE = 0.5;
const BAND = [0.4, 0.6] as const;
/** End of the Froude scale drawn. */
const SCALE_END = 1.2;

/** The numbers that follow from the timing, as in a tide table. */
export const Readings = memo(function Readings({ gaitId }: { gaitId: string }) {
  const gait = useGaitWatching(gaitId, (g) => [g.timing, g.right, g.legLength]);
  const fps = useSession((s) => s.fps);
  const { timing } = gait;
  const fr = froude(timing.speed, gait.legLength);
  const frames = wholeFrames(timing, fps);
  const { sides } = sidedGait(gait);
  const contacts = SIDES.map((s) => contactPhases(sides[s], s));
  const both = supportShare(contacts, 2),
    air = supportShare(contacts, 0);
  const rows: [string, string, string][] = [
    ['a loop', `${frames.frames} fr`, `Whole frames of one stride at ${fps} a second`],
    ...(both > 0.0005
      ? [['double support', `${(both * 100).toFixed(0)} %`, 'Part of the stride with both feet on the ground'] as [string, string, string]]
      : []),
    ...(air > 0.0005 ? [['in flight', `${(air * 100).toFixed(0)} %`, 'Part of the stride with no foot on the ground'] as [string, string, string]] : []),
    ['stride / leg', (Math.abs(timing.strideLength) / gait.legLength).toFixed(2), 'Stride length in leg lengths'],
    [
      'Froude',
      fr.toFixed(2),
      `v² / (g × leg). People change from walk to run near ${WALK_RUN_FROUDE}: ${walkRunSpeed(gait.legLength).toFixed(2)} m/s on these legs.`,
    ],
  ];
  return (
    <Box sx={{ flex: 1, minWidth: 0 }}>
      <Box component="dl" sx={{ m: 0 }}>
        {rows.map(([name, value, title]) => (
          <Box key={name} title={title} sx={{ display: 'flex', justifyContent: 'space-between', borderBottom: '1px solid', borderColor: 'divider', py: 0.4 }}>
            <Typography component="dt" noWrap sx={{ color: 'text.secondary', fontSize: 12.5 }}>
              {name}
            </Typography>
            <Typography component="dd" noWrap sx={{ m: 0, fontSize: 15, fontWeight: 600 }}>
              {value}
            </Typography>
          </Box>
        ))}
      </Box>
      <FroudeScale value={fr} />
    </Box>
  );
});

/** Where the gait stands against the band in which people change from walk to run. */
function FroudeScale({ value }: { value: number }) {
  const x = (fr: number) => (100 * Math.min(fr, SCALE_END)) / SCALE_END;
  const side = value < BAND[0] ? 'people walk here' : value > BAND[1] ? 'people run here' : 'people change here';
  return (
    <Box role="img" aria-label={`Froude number ${value.toFixed(2)}: ${side}`} data-testid="froude-scale" sx={{ mt: 0.75 }}>
      <Box component="svg" viewBox="0 0 100 12" preserveAspectRatio="none" sx={{ width: 1, height: 14, display: 'block', color: 'text.primary' }}>
        <rect x={x(BAND[0])} width={x(BAND[1]) - x(BAND[0])} y={2} height={8} fill="currentColor" opacity={0.22} />
        <line x1={0} x2={100} y1={10} y2={10} stroke="currentColor" vectorEffect="non-scaling-stroke" />
        <line x1={x(WALK_RUN_FROUDE)} x2={x(WALK_RUN_FROUDE)} y1={2} y2={10} stroke="currentColor" strokeDasharray="2 2" vectorEffect="non-scaling-stroke" />
        <line x1={x(value)} x2={x(value)} y1={0} y2={12} stroke="var(--mui-palette-primary-main)" strokeWidth={3} vectorEffect="non-scaling-stroke" />
      </Box>
      <Box sx={{ textAlign: 'center', fontSize: 11.5, color: 'text.secondary' }}>{side}</Box>
    </Box>
  );
}
