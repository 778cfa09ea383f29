import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { useRouter } from 'next/navigation';
import { memo, useEffect } from 'react';
import { useDocument, useDocumentStore } from '../document/context';
import { undo } from '../document/store';
import { useSession } from '../stage/session';

/** Labels of steps that take something away, and how that is told. */
const REMOVALS = /^(remove|leave|without) /;
const REMOVED: Readonly<Record<string, string>> = { remove: 'Removed: ', leave: 'Left out: ', without: 'Taken away: ' };

/** Says what was just done, with the way back beside it. */
export const Notice = memo(function Notice() {
  const store = useDocumentStore();
  const notice = useSession((s) => s.notice);
  const set = useSession((s) => s.set);
  const close = () => set({ notice: null });
  const router = useRouter();
  const projectId = useDocument((s) => s.projectId);
  // Whatever takes something away, and wherever: what went is told, with the way back.
  useEffect(
    () =>
      store.subscribe((now, before) => {
        const last = now.undo.at(-1);
        const made =
          now.undo.length > before.undo.length ||
          (now.undo !== before.undo && now.redo.length === 0 && last !== before.undo.at(-1) && now.undo.length === before.undo.length);
        if (made && last && REMOVALS.test(last.label)) set({ notice: { text: last.label.replace(REMOVALS, (_, word: string) => REMOVED[word]!), undo: true } });
      }),
    [store, set],
  );
  return (
    <Snackbar
      key={notice?.text}
      open={notice !== null}
      autoHideDuration={9000}
      // Escape in a field is the field's.
      onClose={(_, why) => why === 'timeout' && close()}
      message={notice?.text}
      // Over the walkway: neither Play nor the playhead is ever covered.
      anchorOrigin={{ vertical: 'top', horizontal: 'center' }}
      sx={{ '&.MuiSnackbar-root': { top: 62 } }}
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
        ) : notice?.go ? (
          <Button
            color="inherit"
            onClick={() => {
              router.push(`/p/${projectId}/${notice.go}`);
              close();
            }}
          >
            Go there
          </Button>
        ) : undefined
      }
    />
  );
});
