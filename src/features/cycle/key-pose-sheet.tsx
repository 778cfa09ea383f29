import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import type { Motion } from '@/core/motion/motion';
import { keyPoseSheet } from '@/core/sheet/key-pose-sheet';
import { useGait } from '../document/selectors';
import { gaitFileName, saveAs } from '../library/actions';
import { useAfterPaint } from '../stage/after-paint';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { svgToPng } from './svg-to-png';

/** Shown until the sheet is drawn. */
const EMPTY = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1248 466" width="1248" height="466"/>';
const sheetOf = ({ source, name, fps }: { source: Motion; name: string; fps: number }) => keyPoseSheet(source, name, fps);

/** The sheet of key poses as it prints, to be saved as SVG or PNG. */
export function KeyPoseSheet({ motion, gaitId }: { motion: StageMotion; gaitId: string }) {
  const gait = useGait(gaitId);
  const fps = useSession((s) => s.fps);
  const asked = useMemo(() => ({ source: motion.source, name: gait.name, fps }), [motion.source, gait.name, fps]);
  const svg = useAfterPaint(asked, sheetOf) ?? EMPTY;
  const [fault, setFault] = useState<string | null>(null);
  const address = useMemo(() => `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`, [svg]);
  const savePng = () => {
    setFault(null);
    svgToPng(svg, 2).then(
      (blob) => saveAs(gaitFileName(gait, 'png'), blob, 'image/png'),
      (e: unknown) => setFault(e instanceof Error ? e.message : String(e)),
    );
  };
  return (
    <Box>
      <Box
        component="img"
        src={address}
        alt={`Key poses of ${gait.name}: contact, down, passing and up of both steps, from the side and the front`}
        data-testid="key-pose-sheet"
        sx={{ width: 1, display: 'block', border: 1, borderColor: 'divider' }}
      />
      <Box sx={{ display: 'flex', gap: 0.75, mt: 0.75 }}>
        <Button variant="outlined" onClick={() => saveAs(gaitFileName(gait, 'svg'), svg, 'image/svg+xml')}>
          Save SVG
        </Button>
        <Button variant="outlined" onClick={savePng}>
          Save PNG
        </Button>
      </Box>
      {fault && <Typography color="error">{fault}</Typography>}
    </Box>
  );
}
