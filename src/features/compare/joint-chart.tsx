import Box from '@mui/material/Box';
import { useColorScheme } from '@mui/material/styles';
import { Chart, Filler, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import { useEffect, useRef } from 'react';
import type { JointComparison } from '@/core/measure/plausibility';
import { FOOT_COLORS } from '../theme/theme';

Chart.register(LineController, LineElement, PointElement, LinearScale, Filler);

const points = (values: readonly number[], by = 0) => values.map((y, x) => ({ x, y: y + by }));

/** One joint over the stride: the published mean in its band, left and right over it. */
export function JointChart({ comparison }: { comparison: JointComparison }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { mode, systemMode } = useColorScheme();
  const scheme = (mode === 'system' ? systemMode : mode) === 'dark' ? 'dark' : 'light';
  useEffect(() => {
    const { mean, band, left, right } = comparison;
    const ink = scheme === 'dark' ? '#ECE6D8' : '#1F2933';
    const faint = scheme === 'dark' ? 'rgba(236,230,216,0.16)' : 'rgba(31,41,51,0.12)';
    const feet = FOOT_COLORS[scheme];
    const chart = new Chart(canvas.current!, {
      type: 'line',
      data: {
        datasets: [
          { label: 'left', data: points(left), borderColor: feet.left, borderWidth: 2.2 },
          { label: 'right', data: points(right), borderColor: feet.right, borderWidth: 1.6, borderDash: [6, 4] },
          ...(mean
            ? [
                { label: 'published', data: points(mean), borderColor: ink, borderWidth: 1 },
                { label: 'band above', data: points(mean, band), borderWidth: 0, fill: '+1', backgroundColor: faint },
                { label: 'band below', data: points(mean, -band), borderWidth: 0 },
              ]
            : []),
        ],
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        parsing: false,
        normalized: true,
        elements: { point: { radius: 0 } },
        plugins: { legend: { display: false }, tooltip: { enabled: false } },
        scales: {
          x: { type: 'linear', min: 0, max: 100, ticks: { stepSize: 25, color: ink, font: { size: 10 } }, grid: { color: faint } },
          y: { ticks: { color: ink, font: { size: 10 }, maxTicksLimit: 5 }, grid: { color: faint } },
        },
      },
    });
    return () => chart.destroy();
  }, [comparison, scheme]);
  const { joint } = comparison;
  return (
    <Box sx={{ height: 104 }}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${joint} angle over the stride in degrees: left, right${comparison.mean ? ' and the published mean with its band' : ''}`}
      />
    </Box>
  );
}
