import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { SIDES } from '../body/roles';
import { toDegrees, wrapPhase } from '../math/scalar';
import { legAngles } from '../measure/angles';
import { keyMoments } from '../measure/key-moments';
import type { Motion } from '../motion/motion';
import { partPath, SHEET_VIEWS, silhouette, type Part } from './silhouette';

/** Colours of the printed sheet. */
const INK = '#1F2933';
const PAPER = '#F6F3EC';
const FILL: Record<Part['of'], string> = { body: '#C9B8A4', left: '#D8C9B6', right: '#B7A48E', leftFoot: '#C9781E', rightFoot: '#5B4BB7' };
const COLUMN = 150;
const MARGIN = 24;
const HEAD = 56;
const FONT = `font-family="'Source Sans 3 Variable', 'Source Sans 3', 'Helvetica', sans-serif"`;

const escape = (s: string): string => s.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** Angles under a pose: hip, knee and ankle of both legs, degrees. */
const angleRows = (pose: Float64Array): string[] =>
  SIDES.map((side) => {
    const a = legAngles(pose, 6, side);
    const d = (v: number) => `${Math.round(toDegrees(v))}°`;
    return `${side === 0 ? 'L' : 'R'}  hip ${d(a.hip)}  knee ${d(a.knee)}  ankle ${d(a.ankle)}`;
  });

/** The eight key poses of a cycle, side and front, with frame numbers at `rate` fps and the legs' angles, as an SVG file. */
export function keyPoseSheet(motion: Motion, title: string, rate: number): string {
  const { body, duration, pace } = motion;
  const H = body.spec.stature;
  const scale = 128 / H;
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  // Both steps, in the order in which they come.
  const moments = keyMoments(motion).sort((a, b) => a.phase - b.phase);
  const width = MARGIN * 2 + COLUMN * moments.length;
  const rowHeight = 168;
  const height = HEAD + SHEET_VIEWS.length * rowHeight + 74;
  const out: string[] = [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">`,
    `<title>${escape(title)}: key poses</title>`,
    `<rect width="${width}" height="${height}" fill="${PAPER}"/>`,
    `<text x="${MARGIN}" y="30" ${FONT} font-size="19" font-weight="600" fill="${INK}">${escape(title)}</text>`,
    `<text x="${width - MARGIN}" y="30" ${FONT} font-size="13" text-anchor="end" fill="${INK}">${escape(body.spec.name)}, ${H.toFixed(2)} m  ·  ${Math.abs(pace.speed).toFixed(2)} m/s  ·  stride ${pace.strideLength.toFixed(2)} m in ${pace.strideTime.toFixed(3)} s  ·  ${rate} fps</text>`,
  ];
  moments.forEach((moment, i) => {
    const x = MARGIN + COLUMN * (i + 0.5);
    motion.pose(moment.phase * duration, pose, 0);
    forwardKinematics(body.skeleton, pose, 0, world);
    const frame = 1 + wrapPhase(moment.phase) * duration * rate;
    SHEET_VIEWS.forEach((view, row) => {
      const ground = HEAD + (row + 1) * rowHeight - 14;
      const parts = silhouette(body, world, view, pose[0]!, pose[2]!);
      const drawn = parts.map((p) => `<path d="${partPath(p, x, ground, scale)}" fill="${FILL[p.of]}"/>`).join('');
      out.push(`<g stroke="${INK}" stroke-width="0.9" stroke-linejoin="round" data-moment="${moment.side} ${moment.name}" data-view="${view}">${drawn}</g>`);
    });
    const below = HEAD + SHEET_VIEWS.length * rowHeight + 10;
    out.push(
      `<text x="${x}" y="${below}" ${FONT} font-size="13" font-weight="600" text-anchor="middle" fill="${INK}">${moment.side === 'left' ? 'L' : 'R'} ${moment.name}</text>`,
      `<text x="${x}" y="${below + 16}" ${FONT} font-size="12" text-anchor="middle" fill="${INK}">frame ${frame.toFixed(Math.abs(frame - Math.round(frame)) < 0.05 ? 0 : 1)}</text>`,
      ...angleRows(pose).map(
        (line, k) => `<text x="${x}" y="${below + 33 + k * 13}" ${FONT} font-size="9.5" text-anchor="middle" fill="${INK}">${line}</text>`,
      ),
    );
  });
  SHEET_VIEWS.forEach((view, row) => {
    const y = HEAD + (row + 1) * rowHeight - 14;
    out.push(
      `<line x1="${MARGIN}" x2="${width - MARGIN}" y1="${y}" y2="${y}" stroke="${INK}" stroke-width="0.7"/>`,
      `<text x="${MARGIN}" y="${HEAD + row * rowHeight + 12}" ${FONT} font-size="12" fill="${INK}">${view}</text>`,
    );
  });
  out.push('</svg>');
  return out.join('\n');
}
