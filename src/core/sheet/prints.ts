import { SIDE_NAMES } from '../body/roles';
import type { Sole } from '../body/sole';
import type { Foothold, Motion } from '../motion/motion';

/** Every foothold of a motion that ends, by landing. */
const printsOf = (motion: Motion): readonly Foothold[] => motion.footholds(0, motion.duration);

const DEG = 180 / Math.PI;

/** The prints as a table (RFC 4180): SI units, heading in degrees to the left of +Z; an empty time where a foot stands from the start or to the end. */
export function printsCsv(motion: Motion): string {
  const rows = printsOf(motion).map((h) =>
    [
      h.step,
      SIDE_NAMES[h.side],
      h.x.toFixed(6),
      h.y.toFixed(6),
      h.z.toFixed(6),
      (h.heading * DEG).toFixed(4),
      h.landing < 0 ? '' : h.landing.toFixed(6),
      h.leaving > motion.duration ? '' : h.leaving.toFixed(6),
    ].join(','),
  );
  return ['step,foot,x (m),y (m),z (m),heading (deg),lands (s),leaves (s)', ...rows, ''].join('\r\n');
}

/** Scale of a floor plan and its margin, mm on paper. */
const SCALE = 20;
const MARGIN_MM = 12;

/**
 * The prints from above as a drawing to scale, 1 : 20, to be taped on a floor: left soles round and with an L, right ones
 * square and with an R, the number of the step beside each; a rule of a metre at the foot. Forward is up.
 */
export function printsSvg(motion: Motion): string {
  const prints = printsOf(motion);
  const { sole } = motion.body;
  const reach = sole.tipAhead + 0.1;
  const xs = prints.map((h) => h.x),
    zs = prints.map((h) => h.z);
  const [x0, x1] = [Math.min(...xs) - reach, Math.max(...xs) + reach],
    [z0, z1] = [Math.min(...zs) - reach, Math.max(...zs) + reach];
  const mm = 1000 / SCALE;
  const width = Math.max(1.2, x1 - x0) * mm + 2 * MARGIN_MM,
    height = (z1 - z0) * mm + 2 * MARGIN_MM + 14;
  // Left of the figure is left on paper.
  const px = (x: number) => (MARGIN_MM + (x1 - x) * mm).toFixed(3),
    pz = (z: number) => (MARGIN_MM + (z1 - z) * mm).toFixed(3);
  const outlines = prints.map((h) => {
    const letter = h.side === 0 ? 'L' : 'R';
    return `<g transform="translate(${px(h.x)} ${pz(h.z)}) rotate(${(-h.heading * DEG).toFixed(3)})"><path d="${soleOutline(sole, h.side, mm)}" fill="none" stroke="${h.side === 0 ? '#C9781E' : '#5B4BB7'}" stroke-width="0.35"/><text y="-1.2" font-size="3.2" text-anchor="middle">${letter}</text><text x="${((h.side === 0 ? -1 : 1) * (sole.breadth * mm + 2)).toFixed(2)}" font-size="2.6" text-anchor="middle">${h.step}</text></g>`;
  });
  const ruleY = (height - 8).toFixed(2);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width.toFixed(2)}mm" height="${height.toFixed(2)}mm" viewBox="0 0 ${width.toFixed(2)} ${height.toFixed(2)}" font-family="sans-serif" fill="#1F2933"><title>${escaped(motion.name)}, 1 : ${SCALE}</title><rect width="100%" height="100%" fill="#fff"/>${outlines.join('')}<path d="M${MARGIN_MM} ${ruleY}h${mm}" stroke="#1F2933" stroke-width="0.4"/><text x="${MARGIN_MM}" y="${(height - 3).toFixed(2)}" font-size="3">1 m at 1 : ${SCALE}</text></svg>`;
}

/** Outline of a sole in paper's millimetres a metre, forward up, around the point under the ankle. */
function soleOutline({ heelBack, ballAhead, tipAhead, breadth }: Sole, side: 0 | 1, mm: number): string {
  const at = (left: number, ahead: number) => `${(-left * mm).toFixed(2)} ${(-ahead * mm).toFixed(2)}`;
  const w = breadth / 2,
    h = w * 0.74;
  if (side === 1)
    return `M${at(h, -heelBack)}L${at(-h, -heelBack)}L${at(-w, ballAhead)}L${at(-w * 0.9, tipAhead)}L${at(w * 0.9, tipAhead)}L${at(w, ballAhead)}Z`;
  return `M${at(h, -heelBack + w * 0.7)}Q${at(h, -heelBack)} ${at(0, -heelBack)}Q${at(-h, -heelBack)} ${at(-h, -heelBack + w * 0.7)}L${at(-w, ballAhead)}Q${at(-w, tipAhead)} ${at(0, tipAhead)}Q${at(w, tipAhead)} ${at(w, ballAhead)}Z`;
}

const escaped = (text: string): string => text.replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[c]!);

export const PRINT_FORMATS: readonly { readonly extension: string; readonly mime: string; readonly encode: (motion: Motion) => string }[] = [
  { extension: '.csv', mime: 'text/csv', encode: printsCsv },
  { extension: '.svg', mime: 'image/svg+xml', encode: printsSvg },
];
