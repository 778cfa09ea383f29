import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import { bodyRooms } from '@/core/project/motion-spec';
import { createLead, type Lead } from '@/core/steps/lead';
import { leadCast, type LeadCastSpec } from '@/core/steps/lead-piece';
import { ledAs, type LeadPlace } from '@/core/steps/lead-step';
import type { PlanSpec } from '@/core/steps/plan';
import { Cancelled, type EngineClient } from '@/workers/client';
import type { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import type { Session } from '../stage/session';

/** How far ahead (m) the arrow keys lead: at a walk, and with Shift at a run. */
const KEYS_LEAD_M = { walk: 1.1, run: 3.2 } as const;

/** Who is let stand goes on for the way of so many seconds at its pace. */
const COMES_TO_S = 0.6;

export interface LeadKeys {
  readonly ahead: number;
  readonly left: number;
  readonly fast: boolean;
}

/** Ids of the gaits a fast lead may be followed in. */
export const fastGaits = (gaits: Readonly<Record<string, GaitSpec>>): string[] =>
  Object.entries(gaits).flatMap(([id, gait]) => (ledAs(gait) === 'fast' ? [id] : []));

/** One go of leading: who is led over the walk's ground, and where to. It plays in the workspace's own time. */
export class Leading implements NonNullable<Session['led']> {
  readonly lead: Lead;
  place: LeadPlace;
  keys: LeadKeys | null = null;
  private latest = 0;
  private readonly listeners = new Set<() => void>();

  constructor(
    from: StageMotion,
    clock: Clock,
    engine: EngineClient,
    readonly plan: PlanSpec,
    readonly fast: { readonly id: string; readonly gait: GaitSpec },
    private readonly fail: (words: string) => void,
  ) {
    const cast: LeadCastSpec = {
      body: from.body.spec,
      ground: plan.ground,
      bodies: bodyRooms(from.part, plan.ground),
      slow: from.gait,
      fast: fitGait(fast.gait, from.body.legLength),
    };
    const id = crypto.randomUUID();
    const at = new Float64Array(4);
    from.source.place(Math.min(clock.time, from.source.duration), at);
    const start = { x: at[0]!, z: at[2]!, heading: at[3]! };
    this.place = start;
    this.lead = createLead(leadCast(cast), start, (ask) => {
      engine.call('lead', 'lead', { id, cast, ask }).then(
        (piece) => this.lead.take(piece, this.latest),
        (error: unknown) => error instanceof Cancelled || this.fail(error instanceof Error ? error.message : String(error)),
      );
    });
  }

  get motion() {
    return this.lead.motion;
  }

  /** One picture later: where the pointer is on the ground, and where the view looks to (rad). */
  beat(time: number, pointed: LeadPlace | null, looks: number): void {
    if (time < this.latest) return;
    this.latest = time;
    if (this.keys) {
      const at = new Float64Array(4);
      this.lead.motion.place(time, at);
      const { ahead, left, fast } = this.keys;
      const far = (fast ? KEYS_LEAD_M.run : KEYS_LEAD_M.walk) / Math.max(1, Math.hypot(ahead, left));
      const [sin, cos] = [Math.sin(looks), Math.cos(looks)];
      this.place = { x: at[0]! + far * (ahead * sin + left * cos), z: at[2]! + far * (ahead * cos - left * sin) };
    } else if (pointed) this.place = pointed;
    if (this.lead.lead(time, this.place)) for (const heard of this.listeners) heard();
  }

  /** Lets it stand: where it comes to by itself, so that it need not turn back. */
  halt(): void {
    const at = new Float64Array(4);
    this.lead.motion.place(this.latest, at);
    const last = this.lead.steps.at(-1);
    const on = last && !last.rests ? last.body : { x: at[0]!, z: at[2]!, heading: at[3]! };
    const far = last && !last.rests ? COMES_TO_S * last.pace : 0;
    this.place = { x: on.x + far * Math.sin(on.heading), z: on.z + far * Math.cos(on.heading) };
  }

  /** Calls `heard` at every step that is decided. */
  onStep = (heard: () => void): (() => void) => {
    this.listeners.add(heard);
    return () => this.listeners.delete(heard);
  };

  /** The walk it made, without what the plan has of its own; null where it has not walked. */
  walk(): PlanSpec | null {
    const walked = this.lead.walked({ slow: this.plan.gait, fast: this.fast.id });
    return (
      walked && {
        ...this.plan,
        name: 'Led walk',
        steps: null,
        gaits: [],
        pace: null,
        place: null,
        halts: [],
        amount: null,
        belt: null,
        clock: null,
        edits: [],
        free: walked.free,
        shot: { ...this.plan.shot, from: walked.from > 0 ? Math.round(walked.from * 1000) / 1000 : null, to: null },
      }
    );
  }
}
