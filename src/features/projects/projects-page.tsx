'use client';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { projectCall, type ProjectSummary } from './api';
import { ProjectRow } from './project-row';

/** All projects: create, open, rename, duplicate, delete with undo. */
export function ProjectsPage({ initial }: { initial: readonly ProjectSummary[] }) {
  const router = useRouter();
  const [projects, setProjects] = useState(initial);
  const field = useRef<HTMLInputElement>(null);
  // Not before the page can take what is typed, and not where a person is at something else already.
  useEffect(() => {
    if (document.activeElement === document.body) field.current?.focus({ preventScroll: true });
  }, []);
  const [deleted, setDeleted] = useState<ProjectSummary | null>(null);
  const [error, setError] = useState<string | null>(null);
  const guarded = async (run: () => Promise<void>) => {
    setError(null);
    try {
      await run();
    } catch (e) {
      setError(e instanceof Error ? e.message : String(e));
    }
  };
  const reload = async () => setProjects(await projectCall<ProjectSummary[]>('GET', ''));
  const create = (e: FormEvent) => {
    e.preventDefault();
    const name = field.current!.value;
    if (name.trim() === '') return;
    void guarded(async () => {
      const made = await projectCall<ProjectSummary>('POST', '', { name });
      router.push(`/p/${made.id}/cycle`);
    });
  };
  const remove = (p: ProjectSummary) =>
    guarded(async () => {
      await projectCall('DELETE', `/${p.id}`);
      setDeleted(p);
      await reload();
    });
  const restore = () =>
    guarded(async () => {
      if (deleted) await projectCall('POST', `/${deleted.id}/restore`);
      setDeleted(null);
      await reload();
    });
  return (
    <Box component="main" sx={{ height: '100dvh', overflow: 'auto' }}>
      <Box sx={{ maxWidth: 980, mx: 'auto', px: 3, py: 5 }}>
        <Typography variant="h1">Nimbret</Typography>
        <Typography sx={{ color: 'text.secondary', mb: 3 }}>Walk, run and sneak cycles, footsteps and directions, with feet that hold.</Typography>
        <Box component="form" onSubmit={create} sx={{ display: 'flex', gap: 1, mb: 3 }}>
          <TextField
            placeholder="Name of a new project"
            inputRef={field}
            // Not held by React: what is typed while the page comes alive is kept.
            slotProps={{ htmlInput: { maxLength: 80, required: true, autoComplete: 'off', 'aria-label': 'Name of a new project' } }}
            sx={{ flex: 1 }}
          />
          <Button type="submit" variant="contained">
            Create
          </Button>
        </Box>
        {error && (
          <Alert severity="error" sx={{ mb: 2 }}>
            {error}
          </Alert>
        )}
        {projects.length === 0 ? (
          <Typography>No projects yet. Name one above: it starts with three bodies and a walk, a run and a sneak.</Typography>
        ) : (
          <Table sx={{ borderTop: '1.5px solid', borderColor: 'text.primary' }}>
            <TableHead>
              <TableRow>
                <TableCell aria-label="Figure" />
                <TableCell>Project</TableCell>
                <TableCell>Last changed</TableCell>
                <TableCell aria-label="Actions" />
              </TableRow>
            </TableHead>
            <TableBody>
              {projects.map((p) => (
                <ProjectRow
                  key={p.id}
                  project={p}
                  onDelete={() => void remove(p)}
                  onDuplicate={() =>
                    void guarded(async () => {
                      await projectCall('POST', `/${p.id}/duplicate`);
                      await reload();
                    })
                  }
                  onRename={(to) =>
                    void guarded(async () => {
                      await renameProject(p, to);
                      await reload();
                    })
                  }
                />
              ))}
            </TableBody>
          </Table>
        )}
      </Box>
      <Snackbar
        open={deleted !== null}
        autoHideDuration={15000}
        onClose={(_, why) => why !== 'clickaway' && setDeleted(null)}
        message={`“${deleted?.name}” was deleted.`}
        action={
          <Button color="inherit" onClick={() => void restore()}>
            Undo
          </Button>
        }
      />
    </Box>
  );
}

/** Renaming saves the project's own record, like any other edit, with its version. */
async function renameProject({ id }: ProjectSummary, name: string): Promise<void> {
  const items = await projectCall<{ id: string; version: number; spec: object }[]>('GET', `/${id}`);
  const own = items.find((i) => i.id === id)!;
  await projectCall('POST', `/${id}/changes`, {
    token: crypto.randomUUID(),
    changes: [{ kind: 'project', id, version: own.version, spec: { ...own.spec, name } }],
  });
}
