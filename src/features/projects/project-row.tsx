import Button from '@mui/material/Button';
import InputBase from '@mui/material/InputBase';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useState } from 'react';
import type { ProjectSummary } from './api';

interface Props {
  readonly project: ProjectSummary;
  readonly onRename: (name: string) => void;
  readonly onDuplicate: () => void;
  readonly onDelete: () => void;
}

export function ProjectRow({ project, onRename, onDuplicate, onDelete }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed.trim() !== '' && typed.trim() !== project.name) onRename(typed.trim());
    setTyped(null);
  };
  return (
    <TableRow hover>
      <TableCell sx={{ width: '46%' }}>
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
      </TableCell>
      <TableCell suppressHydrationWarning>{new Date(project.updatedAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}</TableCell>
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
