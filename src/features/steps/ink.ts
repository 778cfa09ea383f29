import { FOOT_COLORS } from '../theme/theme';

const inks = (scheme: 'light' | 'dark', sea: string, paper: string, fault: string) => ({
  '--left': FOOT_COLORS[scheme].left,
  '--right': FOOT_COLORS[scheme].right,
  '--sea': sea,
  '--paper': paper,
  '--fault': fault,
});

/** Inks of ribbon and chart, under a lamp too. */
export const CHART_INK = {
  color: 'text.primary',
  ...inks('light', '#1B6B73', '#FBF9F4', '#B3352B'),
  '[data-scheme="dark"] &': inks('dark', '#6FC3CA', '#1B242B', '#F08C80'),
} as const;
