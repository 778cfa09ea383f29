import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { CARRIES, type Carry } from '@/core/gait/spec';
import { useDocumentStore } from '../document/context';
import { useGait } from '../document/selectors';
import { setCarry } from './editing';

const LABELS: Record<Carry, string> = { nothing: 'Nothing', cart: 'Mail cart', lanternLeft: 'Lantern left', lanternRight: 'Lantern right' };

/** What the hands carry: both on the cart's handle, or a lantern in one of them. */
export function CarryChoice({ gaitId }: { gaitId: string }) {
  const store = useDocumentStore();
  const { carry } = useGait(gaitId);
  return (
    <Box sx={{ py: 0.5 }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={carry}
        aria-label="In the hands"
        onChange={(_, v: Carry | null) => v && setCarry(store, gaitId, v)}
        sx={{ '& .MuiToggleButton-root': { py: 0, px: 1, fontSize: 12.5 } }}
      >
        {CARRIES.map((c) => (
          <ToggleButton key={c} value={c}>
            {LABELS[c]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
