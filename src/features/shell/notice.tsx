import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { memo } from 'react';
import { useDocumentStore } from '../document/context';
import { undo } from '../document/store';
import { useSession } from '../stage/session';

/** Says what was just done, with the way back beside it. */
export const Notice = memo(function Notice() {
  const store = useDocumentStore();
  const notice = useSession((s) => s.notice);
  const set = useSession((s) => s.set);
  const close = () => set({ notice: null });
  return (
    <Snackbar
      key={notice?.text}
      open={notice !== null}
      autoHideDuration={9000}
      onClose={(_, why) => why !== 'clickaway' && close()}
      message={notice?.text}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      action={
        notice?.undo ? (
          <Button
            color="inherit"
            onClick={() => {
              undo(store);
              close();
            }}
          >
            Take it back
          </Button>
        ) : undefined
      }
    />
  );
});
