import type { SideName } from './roles';

/** What a joint's name says of it: on which side, and of which part of the body, surely (2) or perhaps (1). */
export interface JointWord {
  readonly side: SideName | null;
  readonly parts: ReadonlyMap<Part, 1 | 2>;
}

/** Parts of the body that names tell; `aside` is what belongs to none of the limbs' lines. */
export type Part =
  'hips' | 'spine' | 'neck' | 'head' | 'shoulder' | 'upperArm' | 'lowerArm' | 'hand' | 'upperLeg' | 'lowerLeg' | 'foot' | 'toes' | 'end' | 'aside' | 'beast';

/**
 * Words of the trade and of anatomy by part, as files are found to use them (common practice, no published source). The first
 * that fits counts; `~` before a part says perhaps.
 */
const TABLE: readonly (readonly [RegExp, readonly string[]])[] = [
  [/\b(tail|paw|hoof|wing|fin|hock|fetlock|pastern|hind|snout|muzzle)\b/, ['beast']],
  [/\b(thumb|index|middle|ring|pinky|little|fingers?|metacarpal|eye|eyes|jaw|tongue|teeth|hair|breast|twist|roll|helper|pole|ik|prop|weapon)\b/, ['aside']],
  [/\b(nub|end|site|tip|effector)\b/, ['end']],
  [/\b(toe|toes|toebase|ball)\b/, ['toes']],
  [/\b(foot|feet|ankle|tarsus)\b/, ['foot']],
  [/\b(knee|shin|calf|lowerleg|lowleg|tibia|crus|(lower|low) leg)\b/, ['lowerLeg']],
  [/\b(thigh|upleg|upperleg|femur|(upper|up) leg)\b/, ['upperLeg']],
  [/\b(hand|wrist|palm)\b/, ['hand']],
  [/\b(forearm|fore arm|elbow|lowerarm|lowarm|ulna|radius|(lower|low) arm)\b/, ['lowerArm']],
  [/\b(upperarm|uparm|humerus|(upper|up) arm)\b/, ['upperArm']],
  [/\b(clavicle|clav|collar|collarbone|scapula)\b/, ['shoulder']],
  [/\bshoulder\b/, ['~shoulder', '~upperArm']],
  [/\barm\b/, ['~upperArm']],
  [/\bleg\b/, ['~lowerLeg', '~upperLeg']],
  [/\b(head|skull|cranium)\b/, ['head']],
  [/\bneck\b/, ['neck']],
  [/\b(pelvis|hips)\b/, ['hips']],
  [/\bhip\b/, ['~upperLeg', '~hips']],
  [/\b(spine|abdomen|ab|belly|waist|back|torso|trunk|chest|thorax|ribs|ribcage|lumbar)\b/, ['spine']],
];

const SIDE_WORDS: Readonly<Record<string, SideName>> = {
  left: 'left',
  l: 'left',
  lf: 'left',
  lft: 'left',
  right: 'right',
  r: 'right',
  rt: 'right',
  rgt: 'right',
};
const GLUED = /^(left|right|l|r)(thigh|shin|calf|knee|hip|leg|foot|ankle|toe|toes|arm|forearm|elbow|hand|wrist|shoulder|clavicle|collar|upleg|uparm)$/;

/** Small words of a name: LeftUpLeg, l_shin, Foot.R, rfoot, Upper Arm. */
function split(name: string): string[] {
  return name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Z])([A-Z][a-z])/g, '$1 $2')
    .toLowerCase()
    .replace(/[^a-z]+/g, ' ')
    .trim()
    .split(' ')
    .flatMap((w) => GLUED.exec(w)?.slice(1) ?? [w]);
}

/** Share of the joints that must begin with a word for it to be a prefix that says nothing. */
const PREFIX_SHARE = 0.8;

/** What each of a skeleton's names says. Words nearly all of them begin with say nothing. */
export function jointWords(names: readonly string[]): JointWord[] {
  let words = names.map(split);
  for (;;) {
    const first = words.map((w) => (w.length > 1 ? w[0]! : '')).find((w) => w !== '');
    if (!first || first in SIDE_WORDS || words.filter((w) => w[0] === first).length < Math.max(3, PREFIX_SHARE * words.length)) break;
    words = words.map((w) => (w[0] === first ? w.slice(1) : w));
  }
  return words.map((w) => {
    const side = w.map((x) => SIDE_WORDS[x]).find((s) => s !== undefined) ?? null;
    const text = w.filter((x) => !(x in SIDE_WORDS)).join(' ');
    const parts = TABLE.find(([pattern]) => pattern.test(text))?.[1] ?? [];
    return { side, parts: new Map(parts.map((p) => (p[0] === '~' ? [p.slice(1) as Part, 1] : [p as Part, 2]))) };
  });
}
