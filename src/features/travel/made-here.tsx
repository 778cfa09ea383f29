import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { directionName } from '@/core/directions/names';
import { defaultHandover } from '@/core/handover/spec';
import { offeredMembers } from '@/core/project/chosen';
import type { MotionSpec } from '@/core/project/motion-spec';
import { useOffered } from '../document/part';
import { useEngine } from '../stage/measure';
import { useSession } from '../stage/session';

/** Cycle, walk and directions of this project, each made as it is now and brought in as a clip. */
export function MadeHere({ disabled, onMade, onFault }: { disabled: boolean; onMade: (file: File) => void; onFault: (words: string) => void }) {
  const engine = useEngine();
  const offered = useOffered();
  const { part, gait, plan, set } = offered;
  const fps = useSession((s) => s.fps);
  const setGait = part.gaits[part.sets[set]!.gait]!.name;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [busy, setBusy] = useState(false);
  const make = (name: string, motion: MotionSpec) => {
    setAnchor(null);
    setBusy(true);
    engine.call('made-here', 'pack', { motions: [motion], part, handover: { ...defaultHandover(), rate: fps }, clips: [] }).then(
      ({ bytes }) => {
        setBusy(false);
        onMade(new File([bytes as Uint8Array<ArrayBuffer>], `${name.replace(/[\\/]/g, ' ')}.glb`, { type: 'model/gltf-binary' }));
      },
      (error: unknown) => {
        setBusy(false);
        onFault(error instanceof Error ? error.message : String(error));
      },
    );
  };
  return (
    <>
      <Button disabled={disabled || busy} aria-haspopup="menu" onClick={(e) => setAnchor(e.currentTarget)}>
        Made here…
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem onClick={() => make(part.gaits[gait]!.name, { kind: 'cycle', gait })}>Cycle: {part.gaits[gait]!.name}</MenuItem>
        <MenuItem onClick={() => make(part.plans[plan]!.name, { kind: 'plan', plan })}>Walk: {part.plans[plan]!.name}</MenuItem>
        {offeredMembers(offered).map(({ directionDeg, twin }) => (
          <MenuItem
            key={`${directionDeg}${twin}`}
            onClick={() => make(`${setGait} ${directionName(directionDeg, twin)}`, { kind: 'member', set, directionDeg, twin })}
          >
            {setGait}, {directionName(directionDeg, twin)}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
