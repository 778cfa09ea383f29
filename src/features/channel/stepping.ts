/** Steps that a key or a turn of the wheel asks for: Shift ten, Alt a tenth; up and right are more. 0 for any other key. */
export function stepsOf(e: {
  readonly key?: string;
  readonly deltaY?: number;
  readonly deltaX?: number;
  readonly shiftKey: boolean;
  readonly altKey: boolean;
}): number {
  // With Shift a wheel turns sideways.
  const wheel = e.deltaY || e.deltaX || 0;
  const one =
    e.key === undefined ? -Math.sign(wheel) : e.key === 'ArrowUp' || e.key === 'ArrowRight' ? 1 : e.key === 'ArrowDown' || e.key === 'ArrowLeft' ? -1 : 0;
  return one * (e.shiftKey ? 10 : e.altKey ? 0.1 : 1);
}

/** A value moved by steps, free of the dust of adding: at the finest a hundredth of a step is kept. */
export function stepped(value: number, steps: number, step: number): number {
  const grain = step / 100;
  return Math.round((value + steps * step) / grain) * grain;
}
