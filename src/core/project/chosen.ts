import type { Body } from '../body/body';
import { setMembers, type SetMember } from '../directions/set';
import { fitGait } from '../gait/fit';
import type { GaitSpec } from '../gait/spec';
import type { MotionSpec, ProjectPart } from './motion-spec';
import { IN_USE, type HandoverSpec } from '../handover/spec';

/** What a hand-over is chosen from: items of a project, and which of them are worked on. */
export interface Offered {
  readonly part: ProjectPart;
  readonly body: Body;
  /** Ids of the gait and the walk in use, and of the set. */
  readonly gait: string;
  readonly plan: string;
  readonly set: string;
}

/** Ids a choice means, in the order of what there is. */
export const chosenIds = (chosen: readonly string[], used: string, all: readonly string[]): string[] =>
  all.filter((id) => chosen.includes(id) || (id === used && chosen.includes(IN_USE)));

/** Members of the project's set, for its body. */
export const offeredMembers = ({ part, body, set }: Offered): SetMember[] =>
  setMembers(part.sets[set]!, fitGait(part.gaits[part.sets[set]!.gait]!, body.legLength));

export const isMember =
  (a: { directionDeg: number; twin: boolean }) =>
  (b: { directionDeg: number; twin: boolean }): boolean =>
    a.directionDeg === b.directionDeg && a.twin === b.twin;

/**
 * The motions a hand-over chooses that are made here: cycles, walks, members. The member ahead of a gait whose cycle is chosen
 * too is the same motion, and comes once.
 */
export function chosenMotions(handover: HandoverSpec, offered: Offered): MotionSpec[] {
  const { part, body, set } = offered;
  const gaits = chosenIds(handover.gaits, offered.gait, Object.keys(part.gaits));
  const walks = chosenIds(handover.walks, offered.plan, Object.keys(part.plans));
  const own = part.sets[set]!.gait;
  const cycle = gaits.includes(own) ? motionText(fitGait(part.gaits[own]!, body.legLength)) : null;
  const members = offeredMembers(offered).filter((m) => handover.members.some(isMember(m)) && motionText(m.gait) !== cycle);
  return [
    ...gaits.map((gait): MotionSpec => ({ kind: 'cycle', gait })),
    ...walks.map((plan): MotionSpec => ({ kind: 'plan', plan })),
    ...members.map(({ directionDeg, twin }): MotionSpec => ({ kind: 'member', set, directionDeg, twin })),
  ];
}

/** A gait as it moves, whatever it is called. */
const motionText = (gait: GaitSpec): string => JSON.stringify({ ...gait, name: '', about: '', tags: [] });

/** A choice of everything there is. */
export const everything = (offered: Offered, clips: readonly string[]): Pick<HandoverSpec, 'gaits' | 'walks' | 'clips' | 'members'> => ({
  gaits: Object.keys(offered.part.gaits),
  walks: Object.keys(offered.part.plans),
  clips: [...clips],
  members: offeredMembers(offered).map(({ directionDeg, twin }) => ({ directionDeg, twin })),
});
