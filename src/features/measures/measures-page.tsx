'use client';
import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import Markdown, { type Components } from 'react-markdown';
import remarkGfm from 'remark-gfm';

const PARTS: Components = {
  h1: ({ children }) => <Typography variant="h1">{children}</Typography>,
  h2: ({ children }) => (
    <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
      {children}
    </Typography>
  ),
  p: ({ children }) => <Typography sx={{ my: 1 }}>{children}</Typography>,
  li: ({ children }) => (
    <Typography component="li" sx={{ my: 0.5 }}>
      {children}
    </Typography>
  ),
  table: ({ children }) => (
    <Table size="small" sx={{ my: 1 }}>
      {children}
    </Table>
  ),
  tr: ({ children }) => <TableRow>{children}</TableRow>,
  th: ({ children }) => <TableCell sx={{ fontWeight: 700 }}>{children}</TableCell>,
  td: ({ children }) => <TableCell>{children}</TableCell>,
};

/** The definitions of what is measured, to be read beside the work. */
export function MeasuresPage({ text }: { text: string }) {
  return (
    <Box component="main" sx={{ height: '100dvh', overflow: 'auto' }} tabIndex={0}>
      <Box sx={{ maxWidth: 760, mx: 'auto', px: 3, py: 5 }}>
        <Markdown remarkPlugins={[remarkGfm]} components={PARTS}>
          {text}
        </Markdown>
      </Box>
    </Box>
  );
}
