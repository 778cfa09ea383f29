import { channelCount, type BvhPackage } from './package';

/** Digits after the point; 1e-6 m and 1e-6° lose nothing that a foot could show. */
const DECIMALS = 6;
const number = (v: number): string => {
  const text = v.toFixed(DECIMALS);
  return text === '-0.000000' ? '0.000000' : text;
};

/** The text of a BVH package. */
export function encodeBvh(pkg: BvhPackage): string {
  const lines = ['HIERARCHY'];
  const children = pkg.joints.map((_, j) => pkg.joints.flatMap((c, i) => (c.parent === j ? [i] : [])));
  const write = (j: number, depth: number): void => {
    const joint = pkg.joints[j]!;
    const pad = '\t'.repeat(depth);
    lines.push(`${pad}${joint.parent < 0 ? 'ROOT' : 'JOINT'} ${joint.name}`, `${pad}{`);
    lines.push(`${pad}\tOFFSET ${joint.offset.map(number).join(' ')}`, `${pad}\tCHANNELS ${joint.channels.length} ${joint.channels.join(' ')}`);
    for (const child of children[j]!) write(child, depth + 1);
    if (joint.end) lines.push(`${pad}\tEnd Site`, `${pad}\t{`, `${pad}\t\tOFFSET ${joint.end.map(number).join(' ')}`, `${pad}\t}`);
    lines.push(`${pad}}`);
  };
  write(0, 0);
  lines.push('MOTION', `Frames: ${pkg.frames}`, `Frame Time: ${pkg.frameTime.toFixed(8)}`);
  const width = channelCount(pkg.joints);
  for (let f = 0; f < pkg.frames; f++) lines.push(Array.from(pkg.values.subarray(f * width, (f + 1) * width), number).join(' '));
  return lines.join('\n') + '\n';
}
