'use client';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useColorScheme } from '@mui/material/styles';
import Link from 'next/link';
import { memo, type ReactNode } from 'react';
import { useDocument, useDocumentStore } from '../document/context';
import { projectOf } from '../document/selectors';
import { useSessionStore } from '../stage/session';
import { useStable } from '../stage/use-stable';
import { SaveMark } from './save-state';
import { STATIONS, type Station } from './stations';
import { redoAloud, stepWords, undoAloud } from './undoing';

interface Props {
  readonly station: Station;
  readonly gauge: ReactNode;
  readonly onKeys: () => void;
  readonly onSay: () => void;
  /** Whether the panel lies open over a narrow walkway. */
  readonly panel: boolean;
  readonly onPanel: () => void;
}

/** Project, stations in the order of the job, saving, undo, and the slide gauge, the only part that follows the motion. */
export function TopBar({ station, gauge, onKeys, onSay, panel, onPanel }: Props) {
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        columnGap: 1.5,
        flexWrap: 'wrap',
        px: 1.5,
        minHeight: 52,
        borderBottom: '1.5px solid',
        borderColor: 'text.primary',
        bgcolor: 'background.paper',
      }}
    >
      <ProjectTitle />
      <StationLinks station={station} />
      <Box sx={{ ml: 'auto', display: 'flex', alignItems: 'center', gap: 0.5, py: 0.25 }}>
        <SaveMark />
        <UndoRedo />
        <ThemeSwitch />
        <Openers onKeys={useStable(onKeys)} onSay={useStable(onSay)} />
        {gauge}
        <PanelOpener open={panel} onClick={useStable(onPanel)} />
      </Box>
    </Box>
  );
}

/** The line in which things are said, and the sheet of keys. */
const Openers = memo(function Openers({ onKeys, onSay }: Pick<Props, 'onKeys' | 'onSay'>) {
  return (
    <>
      <Button title="Say what to do in words (/): a value, a name, an act, a place to go to" onClick={onSay} sx={{ minWidth: 44 }}>
        Say…
      </Button>
      <IconButton aria-label="Keys" onClick={onKeys} sx={{ width: 30, height: 30, fontSize: 16, fontWeight: 600, color: 'primary.main' }}>
        ?
      </IconButton>
    </>
  );
});

const PanelOpener = memo(function PanelOpener({ open, onClick }: { open: boolean; onClick: () => void }) {
  return (
    <Button variant="outlined" aria-expanded={open} onClick={onClick} sx={{ display: 'none', '@media (max-width: 979px)': { display: 'inline-flex' } }}>
      {open ? 'Close panel' : 'Panel'}
    </Button>
  );
});

const ProjectTitle = memo(function ProjectTitle() {
  const { name } = useDocument(projectOf);
  return (
    <Box sx={{ minWidth: 0, width: 150, '@media (max-width: 1099px)': { width: 120 } }}>
      <Typography component={Link} href="/" sx={{ display: 'block', fontSize: 12, color: 'primary.main', textDecoration: 'none', lineHeight: 1.2 }}>
        Nimbret, all projects
      </Typography>
      <Typography component="h1" variant="h2" noWrap sx={{ lineHeight: 1.25 }}>
        {name}
      </Typography>
    </Box>
  );
});

const StationLinks = memo(function StationLinks({ station }: { station: Station }) {
  const projectId = useDocument((s) => s.projectId);
  return (
    <Box component="nav" aria-label="Stations" sx={{ display: 'flex', height: 51, '@media (max-width: 1099px)': { '& > a': { px: 1 } } }}>
      {STATIONS.map(({ id, label }, i) => (
        <Box
          key={id}
          component={Link}
          href={`/p/${projectId}/${id}`}
          aria-current={id === station ? 'page' : undefined}
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: 0.75,
            px: 1.5,
            color: 'text.primary',
            textDecoration: 'none',
            fontWeight: id === station ? 700 : 400,
            borderLeft: i === 0 ? 1 : 0,
            borderRight: 1,
            borderColor: 'divider',
            boxShadow: id === station ? 'inset 0 -4px 0 var(--mui-palette-primary-main)' : 'none',
          }}
        >
          <Typography component="span" sx={{ fontFamily: '"Source Serif 4 Variable", serif', fontStyle: 'italic', fontSize: 12, color: 'text.secondary' }}>
            {i + 1}
          </Typography>
          {label}
        </Box>
      ))}
    </Box>
  );
});

const UndoRedo = memo(function UndoRedo() {
  const store = useDocumentStore();
  const session = useSessionStore();
  const back = useDocument((s) => s.undo.at(-1));
  const again = useDocument((s) => s.redo.at(-1));
  return (
    <>
      <Button disabled={!back} title={back && `Undo: ${stepWords(back)}`} onClick={() => undoAloud(store, session)} sx={{ minWidth: 46 }}>
        Undo
      </Button>
      <Button disabled={!again} title={again && `Redo: ${stepWords(again)}`} onClick={() => redoAloud(store, session)} sx={{ minWidth: 46 }}>
        Redo
      </Button>
    </>
  );
});

const ThemeSwitch = memo(function ThemeSwitch() {
  const { mode, setMode } = useColorScheme();
  const next = mode === 'dark' ? 'light' : 'dark';
  return (
    <Button onClick={() => setMode(next)} sx={{ minWidth: 44 }} aria-label={`Use the ${next} theme`}>
      {next}
    </Button>
  );
});
