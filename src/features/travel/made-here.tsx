import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { directionName } from '@/core/directions/names';
import { setMembers } from '@/core/directions/set';
import { defaultHandover, type HandoverSpec } from '@/core/handover/spec';
import { useDocument } from '../document/context';
import { gaitIdOf, useGait, useGaitFor, usePlan, useSet } from '../document/selectors';
import { usePackRequest } from '../handover/pack-request';
import { useEngine } from '../stage/measure';
import { useSession } from '../stage/session';

/** Cycle, walk and directions of this project, each made as it is now and brought in as a clip. */
export function MadeHere({ disabled, onMade, onFault }: { disabled: boolean; onMade: (file: File) => void; onFault: (words: string) => void }) {
  const engine = useEngine();
  const request = usePackRequest();
  const fps = useSession((s) => s.fps);
  const gait = useGait(useDocument(gaitIdOf));
  const plan = usePlan();
  const set = useSet();
  const setGait = useGait(useGaitFor(set.gait));
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [busy, setBusy] = useState(false);
  const make = (name: string, what: Partial<HandoverSpec>) => {
    setAnchor(null);
    setBusy(true);
    const handover = { ...defaultHandover(), cycle: false, plan: false, directions: [], ...what, rate: fps };
    engine.call('made-here', 'pack', request(handover, [])).then(
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
        <MenuItem onClick={() => make(gait.name, { cycle: true })}>Cycle: {gait.name}</MenuItem>
        <MenuItem onClick={() => make(plan.name, { plan: true })}>Walk: {plan.name}</MenuItem>
        {setMembers({ ...set, twins: false }, setGait).map(({ directionDeg }) => (
          <MenuItem key={directionDeg} onClick={() => make(`${setGait.name} ${directionName(directionDeg)}`, { directions: [directionDeg] })}>
            {setGait.name}, {directionName(directionDeg)}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
