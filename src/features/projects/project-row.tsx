import Button from '@mui/material/Button';
import InputBase from '@mui/material/InputBase';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useState } from 'react';
import type { ProjectSummary } from './api';
import { ProjectFigure } from './project-figure';

interface Props {
  readonly project: ProjectSummary;
  readonly onRename: (name: string) => void;
  readonly onDuplicate: () => void;
  readonly onDelete: () => void;
}

/** Name of the project that ships. */
const DEMO_NAME = 'The tidal post';
const SHOWN = 4;

/** A few names, and how many more there are. */
const listed = (names: readonly string[]): string =>
  names.length <= SHOWN ? names.join(', ') : `${names.slice(0, SHOWN).join(', ')} and ${names.length - SHOWN} more`;

/** A project: its figure walking, what is in it, and what can be done with it. */
export function ProjectRow({ project, onRename, onDuplicate, onDelete }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed.trim() !== '' && typed.trim() !== project.name) onRename(typed.trim());
    setTyped(null);
  };
  return (
    <TableRow hover>
      <TableCell sx={{ width: 84, py: 0.5 }}>
        <ProjectFigure id={project.id} />
      </TableCell>
      <TableCell sx={{ width: '44%' }}>
        {typed === null ? (
          <Typography component={Link} href={`/p/${project.id}/cycle`} sx={{ fontSize: 15, fontWeight: 600, color: 'primary.main' }}>
            {project.name}
          </Typography>
        ) : (
          <InputBase
            autoFocus
            fullWidth
            value={typed}
            inputProps={{ 'aria-label': 'New name', maxLength: 80 }}
            onChange={(e) => setTyped(e.target.value)}
            onBlur={commit}
            onKeyDown={(e) => (e.key === 'Enter' ? commit() : e.key === 'Escape' && setTyped(null))}
          />
        )}
        <Typography sx={{ fontSize: 12.5, color: 'text.secondary' }}>{listed(project.gaits)}</Typography>
        <Typography sx={{ fontSize: 12.5, color: 'text.secondary' }}>on {listed(project.bodies)}</Typography>
        {project.name === DEMO_NAME && (
          <Typography sx={{ fontSize: 12.5, mt: 0.25 }}>
            The demo, all made up: the mail service of a tidal island. Marlo Venn carries the post over causeway and stones, Pip Orrin learns the trade, Bosun
            Hale lights the lamps. Open it to see what Nimbret does.
          </Typography>
        )}
      </TableCell>
      <TableCell sx={{ whiteSpace: 'nowrap' }} suppressHydrationWarning>
        {new Date(project.updatedAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
      </TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        <Button onClick={() => setTyped(project.name)}>Rename</Button>
        <Button onClick={onDuplicate}>Duplicate</Button>
        <Button color="error" onClick={onDelete}>
          Delete
        </Button>
      </TableCell>
    </TableRow>
  );
}
