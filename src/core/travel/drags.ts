import { contactPoints, CONTACT_NUMBERS, type FootModel } from '../body/foot-model';
import { createWorldPose, forwardKinematics, poseSize, withAncestors } from '../body/skeleton';
import { createFrameReader, type Clip, type ClipContact } from '../clip/clip';
import { standsOf } from './recorded-parts';

/** A contact in which a foot is dragged from one stand to another, and by how much at most, m. */
export interface Drag {
  readonly contact: ClipContact;
  readonly metres: number;
}

/** A foot that goes less far (m) between its stands is not dragged. */
const DRAGGED_M = 0.005;

/** Where feet on the ground are dragged: from one stand to the next, all through a contact without any, or to and from what is held of one that is dragged. */
function dragsOf(clip: Clip, feet: readonly FootModel[], contacts: readonly ClipContact[]): Drag[] {
  const read = createFrameReader(clip);
  const pose = new Float64Array(poseSize(clip.skeleton));
  const world = createWorldPose(clip.skeleton);
  const [a, b] = [new Float64Array(CONTACT_NUMBERS), new Float64Array(CONTACT_NUMBERS)];
  return contacts.flatMap((contact): Drag[] => {
    const foot = feet.find((f) => f.name === contact.foot)!;
    const only = withAncestors(clip.skeleton, [foot.ankle, foot.toes]);
    const look = (f: number, out: Float64Array) => {
      read(Math.round(f), pose, 0);
      forwardKinematics(clip.skeleton, pose, 0, world, only);
      contactPoints(foot, world, out, 0);
    };
    const stands = standsOf(contact);
    const gaps: (readonly [number, number])[] =
      stands.length === 0 ? [[contact.from, contact.to]] : stands.slice(1).map((s, i) => [stands[i]!.to, s.from] as const);
    if (contact.manner === 'dragged' && stands.length > 0) gaps.push([contact.from, stands[0]!.from], [stands.at(-1)!.to, contact.to]);
    const metres = gaps.reduce((most, [from, to]) => {
      look(from, a);
      look(to, b);
      // The one of heel and ball that stays more.
      return Math.max(most, Math.min(apart(a, b, 0), apart(a, b, 3)));
    }, 0);
    return metres > DRAGGED_M ? [{ contact, metres }] : [];
  });
}

/** Contacts that are dragged, by how much: what no slide tells, where nothing stands. */
export const draggedIn = (clip: Clip, feet: readonly FootModel[], contacts: readonly ClipContact[]): Drag[] =>
  dragsOf(
    clip,
    feet,
    contacts.filter((c) => c.manner === 'dragged'),
  );

/** What a lock leaves: feet that were dragged from one stand to the next in the contacts there were, and those that are dragged now. */
export const draggedStill = (clip: Clip, feet: readonly FootModel[], contacts: readonly ClipContact[], held: readonly ClipContact[]): Drag[] => [
  ...dragsOf(
    clip,
    feet,
    contacts.filter((c) => standsOf(c).length > 1),
  ),
  ...draggedIn(clip, feet, held),
];

/** Drags as files tell them: whole frames, both ends inside, mm. */
export const tellDrags = (drags: readonly Drag[]): { foot: ClipContact['foot']; from: number; to: number; mm: number }[] =>
  drags.map(({ contact: { foot, from, to }, metres }) => ({
    foot,
    from: Math.ceil(from - 1e-6),
    to: Math.floor(to + 1e-6),
    mm: Math.round(metres * 1e9) / 1e6,
  }));

const apart = (a: Float64Array, b: Float64Array, o: number): number => Math.hypot(a[o]! - b[o]!, a[o + 1]! - b[o + 1]!, a[o + 2]! - b[o + 2]!);
